"""Words of back-ups."""

from django.utils.translation import gettext_lazy as _

UNUSABLE = {
    "not_whole": _("This file is not whole: it breaks off or cannot be unpacked."),
    "not_ours": _("This is not a back-up of Lynxwort."),
    "newer": _("A newer Lynxwort wrote this back-up. Take that version first."),
    "changed": _("This back-up does not hold what it says it holds: something in it was changed or lost."),
    "damaged": _("The database in this back-up is damaged."),
}
KINDS = {"asked": _("asked for"), "daily": _("of the day"), "migration": _("before a new version")}
