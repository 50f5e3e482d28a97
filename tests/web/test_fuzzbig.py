import os, random, time
from tests.hostile import cases, standing, wrong
def test_big(demo, monkeypatch):
    demo.raise_request_exception = False
    monkeypatch.setattr("lynxwort.web.machine.shelf.make", lambda kind: None)
    before = standing()
    every = cases(demo)
    print(len(every))
    rng = random.Random(int(os.environ.get("SEED", "1")))
    t=time.time(); n=0; out={}
    rng.shuffle(every)
    for case in every:
        if time.time()-t > float(os.environ.get("SECS","240")): break
        n+=1
        said = wrong(demo, case, before)
        if said: out.setdefault((case.place,said),[]).append((case.data or {}).get(case.place.rpartition("[")[2][:-1], case.path)[-60:])
    print(n, "cases", len(out))
    for k,v in sorted(out.items()): print(k, len(v), v[:3])
    assert 0
