"""One plan across all stations through its page: asked for, stopped, gone on with, a step left out, into the draft."""

import html
import json
import re

from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Draft, Setup
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.web.stations.proposing import planning, sureness
from tests.web.test_service import found

HX = {"headers": {"hx-request": "true", "hx-target": "plan"}}


def worked():
    while worker.run_next():
        pass


def test_a_plan_is_stopped_goes_on_and_a_step_is_left_out(demo, monkeypatch):
    monkeypatch.setattr(sureness, "COUNT", 16)
    address = f"{demo.base}card/plan/"
    assert "Working out a plan" in demo.get(address).content.decode()
    demo.post(address, {"cancel": "1"}, **HX)  # nobody waits for one that only waits
    assert Job.objects.get(kind="plan").state == "cancelled"
    assert "Stopped before the end" in demo.get(address, **HX).content.decode()
    assert "Working out a plan" in demo.post(address, {"again": "1"}, **HX).content.decode()
    worked()
    # what comes in place of the waiting page brings the steps along
    part = html.unescape(demo.get(address, **HX).content.decode())
    assert 'hx-swap-oob="lay"' in part
    assert "every 600ms" not in part
    page = html.unescape(demo.get(address).content.decode())
    assert re.search(r"7 steps, 5\.\d h, no part to buy, kit for 210", page)
    assert "Main jet <b>165 → 168</b>" in page
    assert re.search(r"Settles: <a [^>]*>main 165 too lean", page)
    assert "is no reason to go leaner" in page  # the caution stands at the step
    # how sure it is comes after, in its own time
    assert "Judging it in 16 ways" in demo.get(f"{address}sure/").content.decode()
    worked()
    sure = html.unescape(demo.get(f"{address}sure/").content.decode())
    assert "every 1s" not in sure
    assert re.search(r"In <b>\d+ cases? of 100</b> nothing more is said", sure)
    assert re.search(r"rear preload is off</a> <span class=\"unit\">\d+ cases of 100", sure)
    assert demo.get(f"{address}sure/", {"changes": "many"}).status_code == 404
    # without the rear sprocket
    steps = re.findall(r'name="step" value="(\d+)"', page)
    wheel = re.search(r'value="(\d+)" checked><span><b>\d+\. Rear wheel', page)[1]
    version = Draft.objects.get().version
    sent = {"version": version, "step": [s for s in steps if s != wheel]}
    # its work joins the week, pressed twice once, and the card until it is done
    assert (
        demo.post(f"{address}week/", {"version": version}, follow=True).content.decode().count("No step with work") == 1
    )
    for _press in range(2):
        week = html.unescape(demo.post(f"{address}week/", sent, follow=True).content.decode())
    assert "is on the list of the week" in week
    assert week.count("Carburettor: main jet</b>") == 1
    assert "Rear wheel: " not in week
    assert "Bolt on and off: " not in week
    assert "Carburettor: main jet" in demo.get(f"{demo.base}card/").content.decode()
    chores = Race.objects.get(pk=demo.race.pk).document["week"]["chores"]
    chore = next(c["id"] for c in chores if "main jet" in c["name"])
    demo.post(f"{demo.base}card/week/", {"what": "done", "chore": chore})
    assert "Carburettor: main jet" not in demo.get(f"{demo.base}card/").content.decode()
    assert demo.post(f"{address}take/", sent).status_code == 302
    values = Draft.objects.get().values
    assert values["main_jet"] == 168.0
    assert values["tank_capacity_m3"] == 0.0145
    assert values["rear_sprocket_teeth"] == 48
    assert len(Draft.objects.get().past) == 1  # one step of the ledger
    # pressed twice, or in an old window: nothing more happens
    after = demo.post(f"{address}take/", sent, follow=True).content.decode()
    assert "The draft has moved on since" in after
    # the next one holds on to what was planned
    held = Job.objects.filter(kind="plan").latest("pk").payload["before"]
    assert {"tunable": "rear_sprocket_teeth", "value": 50.0} in held
    assert Draft.objects.get().values == values


def test_the_first_plan_is_told_whole_kept_by_stop_and_not_taken_for_a_later_one(demo, monkeypatch):
    address, seen = f"{demo.base}card/plan/", []

    def stepper(pk):
        def step(progress, result):
            if len(result.get("first", {"steps": []})["steps"]) > 1 and not seen:
                Job.objects.filter(pk=pk).update(progress=progress, result=result)
                seen.append(html.unescape(demo.get(address, **HX).content.decode()))
                sent = {"version": Draft.objects.get().version, "step": [0]}
                seen.append(demo.post(f"{address}take/", sent, follow=True).content.decode())
                raise worker.Cancelled

        return step

    with monkeypatch.context() as stopped:
        stopped.setattr(worker, "_stepper", stepper)
        demo.get(address)
        worked()
    part, too_soon = seen
    assert re.search(r"First plan: \s*7 steps, 5\.\d h, no part to buy, kit for 210", part)
    assert "every 600ms" in part
    assert "Main jet <b>165 → " in part
    assert "Settles:" in part
    assert "Into the draft" not in part
    assert 'name="step"' not in part
    assert "plan-sure" not in part
    assert "The search for a plan went on since" in too_soon
    assert Draft.objects.get().values["main_jet"] == 165.0
    # stopped, it is there to be taken
    page = html.unescape(demo.get(address).content.decode())
    assert "did not come to its end" in page
    assert "Go on" in page
    assert "plan-sure" not in page
    assert 'name="first" value="1"' in page
    steps = re.findall(r'name="step" value="(\d+)"', page)
    sent = {"version": Draft.objects.get().version, "step": steps, "first": "1"}
    # gone on with in another window: what was ticked here is not taken for steps of the other plan
    job = Job.objects.get(kind="plan")
    Job.objects.filter(pk=job.pk).update(state="done", result=job.result | {"plan": job.result["first"]})
    assert "The search for a plan went on since" in demo.post(f"{address}take/", sent, follow=True).content.decode()
    assert Draft.objects.get().values["main_jet"] == 165.0
    Job.objects.filter(pk=job.pk).update(state="cancelled", result=job.result)
    assert "The plan is in the draft" in demo.post(f"{address}take/", sent, follow=True).content.decode()
    assert Draft.objects.get().values["main_jet"] > 165.0


def test_stops_that_run_dry_are_offered_otherwise_and_are_one_step_of_a_plan(demo):
    demo.post(f"/races/{demo.race.pk}/stages/0/refuel_points/", {"at_m": "20", "name": "ford"})
    version = Draft.objects.get().version
    poor = [{"passing": 1, "to_level_m3": 0.002}, {"passing": 3}]
    demo.post(f"{demo.base}range/stops/take/", {"version": version, "fills": json.dumps(poor)})
    worked()
    raw = demo.get(f"{demo.base}range/findings/").content.decode()
    part, offered = html.unescape(raw), html.unescape(re.search(r'name="moves" value="([^"]*stop__[^"]*)"', raw)[1])
    assert "Try ford (lap 1) filled up" in part
    assert "Try ford (lap 1) ridden past, ford (lap 2) filled to 7.60 L, ford (lap 3) ridden past" in part
    assert "The organiser's refuelling rules stand above the plan" in part
    version = Draft.objects.get().version
    for bad in ("stop__0", "stop__", "stop__1000", "stop__-1", "stop__x"):
        sent = {"version": version, "moves": json.dumps([[bad, 0.005]])}
        assert demo.post(f"{demo.base}range/notch/", sent).status_code == 422, bad
    for bad in ([["stop__999", 0.005]], [["stop__1", 0.0395], ["stop__401", 0.01]], [["stop__1", -1.0]]):
        refused = demo.post(f"{demo.base}range/notch/", {"version": version, "moves": json.dumps(bad)})
        assert refused.status_code == 422, bad
    assert Draft.objects.get().values["stops"] == poor
    demo.post(f"{demo.base}range/notch/", {"version": version, "moves": offered})
    assert Draft.objects.get().values["stops"] == [{"passing": 1}, {"passing": 3}]
    demo.post(f"{demo.base}range/put-back/", {"version": Draft.objects.get().version, "tunable": "last"})
    assert Draft.objects.get().values["stops"] == poor
    # of a plan
    address, wish = f"{demo.base}card/plan/", {"leave": ["chassis", "damping", "fuelling", "drive", "kit"]}
    demo.get(address, wish)
    worked()
    page = html.unescape(demo.get(address, wish).content.decode())
    assert "ford (lap 1) <b>filled to 2.00 L → " in page
    step = re.search(r'value="(\d+)" checked><span><b>\d+\. Stops', page)[1]
    sent = {"version": Draft.objects.get().version, "step": [step]} | wish
    assert "No step with work" in demo.post(f"{address}week/", sent, follow=True).content.decode()  # made in the race
    assert demo.post(f"{address}take/", sent).status_code == 302
    bench = open_bench(Setup.objects.select_related("bike__garage", "head", "draft").get(), Race.objects.get())
    assert {"plan_runs_dry", "stop_beyond"}.isdisjoint(f.code for f in bench.report.findings)


def test_a_step_without_which_it_would_run_leaner_is_not_left_out(demo, monkeypatch):
    """A smaller jet that only a higher clip pays for."""
    address = f"{demo.base}card/plan/"
    demo.get(address)
    change = {"owned": True}
    made = {
        "steps": [
            {"place": "carburettor", "work_s": 600.0, "settles": [], "worse": [], "needed": True, "changes": [c]}
            for c in (
                {"tunable": "needle_clip", "before": 3.0, "after": 5.0} | change,
                {"tunable": "main_jet", "before": 165.0, "after": 160.0} | change,
            )
        ],
        "settled": [], "left": [], "new": [], "given_up": [], "shorter": [], "from_box": None,
        "cost": {"work_s": 600.0, "money": 0.0, "purchases": 0},
    }  # fmt: skip
    Job.objects.filter(kind="plan").update(state="done", result={"looked": 3, "plan": made})
    version, before = Draft.objects.get().version, Draft.objects.get().values
    page = demo.post(f"{address}take/", {"version": version, "step": ["1"]}, follow=True).content.decode()
    assert "would run leaner than it does now" in page
    assert Draft.objects.get().values == before
    page = demo.post(f"{address}take/", {"version": version}, follow=True).content.decode()
    assert "No step was ticked" in page
    # nor is its work put on the list for the van
    page = demo.post(f"{address}week/", {"version": version, "step": ["1"]}, follow=True).content.decode()
    assert "would run leaner than it does now" in page
    assert "week" not in Race.objects.get(pk=demo.race.pk).document
    # one place, opened once, in no order that could be turned round; no value that is not kept
    job = Job.objects.get(kind="plan")
    (work,) = planning.work_of(open_bench(demo.setup, demo.race), job.result["plan"], [0, 1])
    assert work["name"] == "Carburettor: needle clip, main jet"
    assert work["takes_s"] == 60.0 * (15.0 + 6.0 + 4.0)
    demo.post(f"{address}take/", {"version": version, "step": ["99", "x", "-1"]})
    demo.post(f"{address}take/", {"version": version, "way": "7"})
    assert Draft.objects.get().values == before


def test_limits_are_typed_in_ones_own_words_and_one_plan_is_worked_out_at_a_time(demo):
    address = f"{demo.base}card/plan/"
    demo.get(address)
    assert demo.get(address, {"work_s": "90 min", "purchases": "1", "leave": ["chassis", "drive"]}).status_code == 200
    wished = Job.objects.filter(kind="plan").get()  # the one before it had not begun, and is not waited for any more
    assert wished.payload["wish"] == {"work_s": 5400.0, "purchases": 1, "leave": ["chassis", "drive"]}
    for bad in ({"work_s": "-3 h"}, {"purchases": "many"}, {"changes": "0"}, {"leave": "the cat"}, {"money": "1e99"}):
        answer = demo.get(address, bad)
        assert answer.status_code == 422, bad
        assert "Say within what limits" in answer.content.decode()
    # a window that only looks on stops nothing of another one's, neither one that waits nor one at work
    looking = Job.objects.filter(kind="plan").latest("pk")
    Job.objects.filter(pk=looking.pk).update(state="done", result={"looked": 3, "plan": None})
    demo.get(address, {"changes": "3"})
    for state in ("waiting", "running"):
        other = Job.objects.exclude(pk=looking.pk).filter(kind="plan")
        other.update(state=state)
        demo.get(address, {"work_s": "90 min", "purchases": "1", "leave": ["chassis", "drive"]}, **HX)
        assert not other.get().cancel
        assert other.get().state == state
    # of plans that were made not all are kept for ever
    for n in range(1, 17):
        demo.get(address, {"changes": str(n)})
        Job.objects.filter(kind="plan").update(state="cancelled")
    assert Job.objects.filter(kind="plan").count() == planning.KEPT + 1


def test_a_bike_that_fails_a_check_gets_no_plan_and_is_told_so(demo):
    """A plan made before the crack was found is not shown any more."""
    address = f"{demo.base}card/plan/"
    demo.get(address)
    before = Job.objects.get(kind="plan").input_key
    found(demo, "frame", "fail", note="hairline crack, left peg")
    assert "Working out a plan" in demo.get(address).content.decode()
    assert Job.objects.get(kind="plan").input_key != before
    worked()
    page = html.unescape(demo.get(address).content.decode())
    assert "Nothing found that does better" in page
    left = page.split('<ul class="plan-left">')[1].split("</ul>")[0]
    assert "rame, pegs, bolts" in left
    assert 'name="step"' not in page
