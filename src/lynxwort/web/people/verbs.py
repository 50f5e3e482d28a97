"""Which verb each address takes that changes something. What is not listed is the owner's alone."""

from lynxwort.web.garages.roles import Verb

#: what is a person's own, whichever garage they are in, and what guards itself
NOBODYS = frozenset(
    {
        "tour",
        "garages:sign-in",
        "garages:sign-out",
        "garages:sign-out-everywhere",
        "garages:first-account",
        "garages:enter-demo",
        "garages:settings",
        "garages:password",
        "garages:units",
        "machine:make",
        "machine:put-back",
        "machine:leave",
        "people:nowhere",
        "people:choose",
        "people:leave",
        "people:join",
    }
)
_BY_VERB = {
    Verb.TAP: ("bench:came", "bench:pump", "bench:trial-tap", "bench:week-load"),
    Verb.RUN: (
        "bench:add-reading",
        "bench:clinic",
        "bench:damper-dyno",
        "bench:diagnose",
        "bench:dyno",
        "bench:felt",
        "bench:stand-in-lap",
        "bench:strike",
        "bench:trial-call",
        "bench:trial-day",
        "bench:trial-plan",
        "bench:trial-run",
        "bench:trial-send",
        "bench:trial-session",
    ),
    Verb.DRAFT: (
        "bench:clicks",
        "bench:map",
        "bench:map-take",
        "bench:mount",
        "bench:notch",
        "bench:plan",
        "bench:put-back",
        "bench:season",
        "bench:sprockets",
        "bench:stops",
        "bench:take-pair",
        "bench:take-plan",
        "bench:take-stops",
        "bench:turned",
        "bench:valving",
    ),
    Verb.KEEP: ("bench:keep", "bench:trial-decide", "bikes:branch", "bikes:name", "bikes:return"),
    Verb.BIKE: (
        "bench:gate",
        "bench:gate-check",
        "bench:kit-bolt",
        "bench:kit-brakes",
        "bench:kit-build",
        "bench:kit-controls",
        "bench:kit-cooling",
        "bench:kit-drop",
        "bench:kit-electrics",
        "bench:kit-items",
        "bench:kit-items-from-csv",
        "bench:kit-sound",
        "bench:kit-wheels",
        "bench:season-buy",
        "bench:service",
        "bench:service-bolts",
        "bench:service-line",
        "bench:service-wear",
        "bench:upload",
        "bikes:copy",
        "bikes:dampers",
        "bikes:facts",
        "bikes:usual",
        "first-facts",
        "parts:box",
        "parts:change",
        "parts:file",
        "parts:remove",
    ),
    Verb.RACE: (
        "bench:course",
        "bench:crew-plan",
        "bench:plan-week",
        "bench:week",
        "races:add-stage",
        "races:change-stage",
        "races:copy",
        "races:item",
        "races:new",
        "races:paint",
        "races:pits",
        "races:race",
        "races:rider",
        "races:riders",
        "races:undo",
    ),
    Verb.OWN: (
        "machine:garage-in",
        "machine:merge",
        "machine:merge-leave",
        "people:end",
        "people:invite",
        "people:put-away",
        "people:role",
    ),
}
VERBS = {name: verb for verb, names in _BY_VERB.items() for name in names}
#: what is only read, and yet not everybody's
READ_BY_VERB = {"machine:garage-out": Verb.OWN, "machine:merge": Verb.OWN}


def verb_of(name: str, method: str) -> Verb | None:
    """The verb of a request. name: of the address; None where no garage is asked."""
    if name in NOBODYS:
        return None
    if method in ("GET", "HEAD", "OPTIONS"):
        return READ_BY_VERB.get(name, Verb.READ)
    return VERBS.get(name, Verb.OWN)
