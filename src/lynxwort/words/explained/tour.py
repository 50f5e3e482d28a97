"""Five steps that show a newcomer where things are."""

from lynxwort.words import N_

#: what each step is called, and what it says; the place it tells of is outlined on the bench
STEPS: tuple[tuple[str, str], ...] = (
    (
        N_("Stations"),
        N_(
            "Each is one part of the whole, with what it says of your bike in one line. A red leaf wants something "
            "done, a yellow one a look, a dashed one lacks a measurement. Keys 1 to 8 open them."
        ),
    ),
    (
        N_("The answer, and its rooms"),
        N_(
            "The large line is the answer. The tabs below it are rooms for one job each: sag, jets, sprockets, stops. "
            "A leaf at a tab says where it is put right."
        ),
    ),
    (
        N_("Notches"),
        N_(
            "Each row moves by what a hand can do: a tooth, a jet, a click. Left and right say what the next step "
            "would do, before you press. Nothing on the bike changes: it is a draft."
        ),
    ),
    (
        N_("The ledger"),
        N_(
            "What you tried, and what it changes everywhere else, good and bad. Take a step back, or keep it all and "
            "say why: kept setups never change again."
        ),
    ),
    (
        N_("Finding things"),
        N_(
            "The lens finds rooms, facts, figures, parts and words, by what riders call them. A dotted word says what "
            "it means, Why? says where a number comes from, the pit card goes to the start."
        ),
    ),
)
