"""What each drawing shows and how it is read, for who asks "what is this?"."""

from lynxwort.words import N_

#: station and number of its drawing, or the drawing's key -> what it shows
DRAWINGS: dict[str, str] = {
    "baseline.1": N_(
        "Your bike from its own numbers: wheels, tubes, link, tank with its level. Press a call-out to go to the notch "
        "that moves it. Slate behind it is the setup as it was kept."
    ),
    "gate": N_(
        "Your bike with what the checks found: a cross failed, an exclamation mark wants another look, a question mark "
        "was not checked though nobody rides without it. Press one to go to its check."
    ),
    "chassis.1": N_(
        "The bike sunk as far as it sinks under the rider, half the fuel aboard. Each dimension is a button to why it "
        "is so. Slate behind it is the setup as it was kept."
    ),
    "chassis.2": N_(
        "How much of the squat under power the chain holds up, over the rear travel. 100 % stands level on the gas; "
        "less squats, more rises. The dot is where it stands at race sag."
    ),
    "chassis.3": N_(
        "The whole travel of each end as a ruler. Pale bands are where free and race sag should lie, marks are where "
        "they do; what is right of race sag is left for bumps."
    ),
    "chassis.4": N_(
        "Each bar is a spring that meets both sags, as tall as the preloads with which it does. Thick ones lie in your "
        "box. The dot is what is on the bike: inside a bar is right."
    ),
    "damping.1": N_(
        "For each kind of ground: at which part of the travel each end spends its time. Tall near the right end means "
        "deep; the last part is bump stop, then metal."
    ),
    "fuelling.1": N_(
        "How rich the engine runs at each opening, against a setting that ran right: 0 is as it ran right, up is "
        "richer. Lines for the coldest and hottest place; below the red line it may seize or burn a piston."
    ),
    "fuelling.2": N_(
        "The needle in its jet, to scale, lifted as far as it is here. The ring between them or the main jet meters, "
        "whichever is smaller: the share says how much of it the needle rules."
    ),
    "purpose.1": N_(
        "The course from above, north up, each kind of ground with its sign. The dot is the place picked on the ribbon."
    ),
    "range.1": N_(
        "What is in the tank or the pack over the race: likely, and on a good and a bad day. Jumps are stops. Red at "
        "the bottom is what it never gives."
    ),
    "drive.1": N_(
        "The lap's pull in each gear against what slope, ground and wind hold back. Where the line of hold lies above "
        "all gears, it does not pull there."
    ),
    "drive.2": N_(
        "Each gear as a bar, from the speed where it pulls to the limiter. Where two bars overlap you may shift; a gap "
        "is a hole in the pull."
    ),
    "drive.3": N_(
        "How the lap goes by time: full throttle, brakes, corners; and where the engine's work goes: air, ground, "
        "climbing, clutch. Nothing here to set: it shows what a change could win."
    ),
    "range.2": N_(
        "How sure it is to finish, against what is aboard at the start. The dashed line is how sure you want to be; "
        "where the curve crosses it is what you need."
    ),
    "range.3": N_("The bike with what is aboard at the place picked on the ribbon: level, weight, sag full and empty."),
    "kit.1": N_(
        "What is bolted on, where it sits, with its mass. Press one to take it off or see what it does; what is off "
        "leaves the springs, the loads and the watts as if it had never been there."
    ),
    "ride": N_(
        "The bike ridden over this piece at the lap's speed, both wheels and the rider moving as computed. Rulers show "
        "how much travel is used: bump, then metal. Slate is the kept setup."
    ),
    "dyno": N_(
        "Torque (full) and power (dashed) at the crank on a standard day. The dark one is in use everywhere; a pull of "
        "your own takes its place when you put it in use."
    ),
    "damper_dyno": N_(
        "Force of the damper against shaft speed: right of the middle going in, left coming out. Steeper is firmer; a "
        "bend is where a stack opens."
    ),
    "clicks": N_(
        "Each square is a pair of clicks, ridden over your course. Dark is worse; the ring is where you are, the leaf "
        "the best found."
    ),
    "stops": N_("The race on the clock: when you come by each place, likely, early and late, and what is done there."),
    "feet": N_("You on the seat at race sag, leg straight down beside it: what is left, or missing, to the ground."),
    "pairs": N_(
        "Each dot is a pair of sprockets: how fast it goes at most against how slowly it crawls at idle. Larger dots "
        "leave more metres it does not pull; rings shake longer. The line is your wish."
    ),
    "chain": N_(
        "Chain and swingarm topped out, at race sag and where it is tightest. Play is set on the stand so that the "
        "tightest place still has some."
    ),
    "jets": N_(
        "Each set of jets of your box with the coldest air it is safe in, over the whole course. Right of its line it "
        "is safe; the shaded band is the air of this race."
    ),
    "stack": N_(
        "The shims of one valve to scale, face shim at the bottom, and how far the oil lifts them at this force."
    ),
    "felt": N_(
        "Where it may be felt: press the end of the bike, then say when and what. The list below follows each choice; "
        "pressing a part changes nothing on the bike."
    ),
    "throttle": N_(
        "The twist grip from closed to full. Press where it shows: each part of the opening is metered by something "
        "else, so that alone says what to look at first."
    ),
    "bike": N_(
        "This bike from its own facts, to scale, its rider aboard once a race is chosen. A wave ~ marks what is "
        "assumed from its kind. Each call-out leads to where its number is typed."
    ),
    "facts": N_(
        "This bike from the facts below, to scale. A wave ~ marks what nobody typed yet: measure the one that is "
        "drawn wrong first."
    ),
    "kind": N_(
        "A usual bike of this kind, to scale: what is not typed is taken from it, and each answer says how far it "
        "may lie off for that."
    ),
    "ribbon": N_(
        "The lap from its start to its end: height as the pale hill, what this station says of each place over it, the "
        "sign of the ground below. A triangle is a place with a problem. Press it to pick a place."
    ),
    "painted": N_(
        "The stage from its start to its end: height above, what was painted as ground below. The band between the "
        "handles is the stretch that the buttons below change."
    ),
    "loupe": N_("The chosen stretch drawn large, with what lies next to it: check its ends before painting it."),
    "noise": N_(
        "The stretch where the recorder jumped most, drawn large. Where the two lines part, the recorded one was "
        "noise, or a hill too short for the recorder."
    ),
    "weekplan": N_(
        "A row an evening, the hours of work across it. Numbers are those of the list. Everything is laid against the "
        "last evening, so the line is where the work must begin; evenings above it are in hand."
    ),
    "weather": N_(
        "An invented day over the hours of the race: how warm, how damp, how hard the wind. It fills the fields below "
        "so that the page can be tried."
    ),
    "heights": N_("Heights as recorded, and as used after noise is smoothed away. What differs was no hill."),
    "sag": N_(
        "Free and race sag of a soft, a right and a stiff spring, race sag set: free sag tells which one you have."
    ),
}
