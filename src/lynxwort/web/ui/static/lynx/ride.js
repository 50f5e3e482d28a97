// The moving picture of a ride: draws what the server reckoned, frame by frame. No calculation of the job.
"use strict";

const moves = !matchMedia("(prefers-reduced-motion: reduce)").matches && !document.documentElement.classList.contains("still");

// the picture in one figure, as long as that stands in the page
function picture(stage) {
  const part = (name) => stage.querySelector(`[data-ride-${name}]`);
  const canvas = stage.querySelector("canvas");
  const pen = canvas.getContext("2d");
  const [playButton, slowButton, place] = ["play", "slow", "place"].map(part);
  const pieces = [...stage.querySelectorAll("[data-piece]")];
  // on a phone fewer metres are shown, so that bike and words stay large enough
  const narrow = canvas.clientWidth < 600;
  if (narrow) canvas.width = 560;
  const FOOT = 30;
  // room for the rulers of both ends
  const SIDE = narrow ? 60 : 170;
  let data = null;
  let [piece, version] = ["", ""];
  let [playing, slow, at, last, left] = [false, false, 0, 0, 0];

  function colour(name) { return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "#1c2721"; }

  // the tones of the plate, as they are by day or night
  const FILLS = { tyre: 1, rim: 1, hub: 1, alloy: 1, sprocket: 1, frame: 1, paper: 1, tank: 1, fuel: 1, plastic: 1, seat: 1, ink: 1, upper: 1, pipe: 1, guard: 1, bag: 1, head: 1 };
  const probe = document.createElement("i");
  probe.hidden = true;
  document.body.append(probe);
  function tone(name) { probe.style.color = `var(--pl-${name})`; return getComputedStyle(probe).color; }
  const tones = Object.fromEntries([...Object.keys(FILLS), "coil", "limb", "line"].map((name) => [name, tone(name)]));
  probe.remove();

  // the parts where the frame has them: wheels with their axles, arm and legs between, the rider over the body; a ghost is lines only
  function drawBike(frame, px, py, scale, ghost) {
    const [x, body, pitch, front, rear, rider] = frame;
    const [body0, pitch0, front0, rear0, rider0] = data.rest;
    const lift = (at) => body - body0 + (pitch - pitch0) * (at - data.to_rear);
    const ahead = data.to_front + data.to_rear;
    const [low, fore] = [rear - rear0, front - front0];
    const slide = (lift(ahead) - fore) * data.lean;
    const moved = {
      rear: ([a, b]) => [a, b + low],
      front: ([a, b]) => [a + slide, b + fore],
      legs: ([a, b]) => [a + slide, b + fore],
      arm: ([a, b]) => [a, b + low + (lift(data.pivot) - low) * a / data.pivot],
      body: ([a, b]) => [a, b + lift(a)],
      rider: ([a, b], sway) => [a, b + lift(a) * (1 - sway) + (rider - rider0) * sway],
    };
    pen.lineJoin = "round";
    const slate = colour("--slate");
    data.parts.forEach(([group, style, closed, width, radius, points, sway]) => {
      if (ghost && (group === "rider" || style === "spoke" || style === "chain")) return;
      const at = points.map((p, k) => { const [a, b] = moved[group](p, sway[k]); return [px(x + a), py(b)]; });
      pen.beginPath();
      if (radius) pen.arc(at[0][0], at[0][1], radius * scale, 0, 2 * Math.PI);
      else at.forEach(([a, b]) => pen.lineTo(a, b));
      if (closed && !radius) pen.closePath();
      pen.globalAlpha = ghost ? 0.8 : group === "rider" ? 0.55 : 1;
      if (!ghost && FILLS[style] && (closed || radius)) { pen.fillStyle = tones[style]; pen.fill(); }
      pen.lineCap = width ? "round" : "butt";
      pen.lineWidth = ghost ? 1.6 : width ? width * scale : { coil: 2.4, chain: 2, handlebar: 4 }[style] || (style === "spoke" ? 0.6 : 1.2);
      pen.strokeStyle = ghost ? slate : tones[style === "coil" || style === "limb" ? style : "line"];
      if (group !== "rider" || width) pen.stroke();
      pen.globalAlpha = 1;
    });
  }

  // travel of one end as a ruler, topped out above: how far in now, how deep so far, where the bump rubber works, where metal meets
  function drawRuler(x, name, column, bump, frame, mirrored) {
    const [top, height, wide] = [34, canvas.height - 34 - FOOT, 22];
    const down = (share) => top + height * Math.max(0, Math.min(1, share));
    const ink = colour("--ink");
    const text = (words, y) => { pen.textAlign = mirrored ? "right" : "left"; pen.fillText(words, mirrored ? x - 6 : x + wide + 6, y); };
    pen.fillStyle = colour("--rail");
    pen.fillRect(x, top, wide, height);
    pen.fillStyle = frame[column] >= 0.995 ? colour("--rust") : colour("--moss");
    pen.fillRect(x, top, wide, down(frame[column]) - top);
    pen.strokeStyle = ink;
    pen.lineWidth = 1.5;
    pen.strokeRect(x, top, wide, height);
    pen.fillStyle = ink;
    pen.font = "600 27px 'Archivo Narrow', sans-serif";
    text(name, top - 12);
    pen.font = "23px 'Archivo Narrow', sans-serif";
    const marks = [[bump, data.words.bump, 1.5], [1, data.words.metal, 4]];
    marks.forEach(([share, words, thick]) => {
      pen.lineWidth = thick;
      pen.beginPath(); pen.moveTo(x - 5, down(share)); pen.lineTo(x + wide + 5, down(share)); pen.stroke();
      if (!narrow) text(words, down(share) + (share === 1 ? 8 : -6));
    });
    const seen = data.frames.slice(0, Math.floor(at) + 1);
    const deepest = Math.max(...seen.map((f) => f[column]));
    pen.fillStyle = colour("--rust");
    pen.beginPath();
    const [tip, back] = mirrored ? [x + wide, x + wide + 12] : [x, x - 12];
    pen.moveTo(tip, down(deepest)); pen.lineTo(back, down(deepest) - 7); pen.lineTo(back, down(deepest) + 7); pen.fill();
  }

  function draw() {
    if (!data) return;
    const k = Math.min(Math.floor(at), data.frames.length - 1);
    const frame = data.frames[k];
    // fewer pixels per metre when the rider flies high: the head stays in the picture
    const highest = Math.max(...data.frames.map((f) => f[5])) + 2.15;
    const scale = Math.min(narrow ? 110 : 170, (canvas.height - FOOT - 6) / highest);
    left = frame[0] - (narrow ? 0.9 : 2.0) - SIDE / scale;
    const px = (m) => (m - left) * scale;
    const py = (m) => canvas.height - FOOT - m * scale;
    pen.clearRect(0, 0, canvas.width, canvas.height);
    pen.lineWidth = 4;
    pen.strokeStyle = colour("--edge");
    pen.beginPath();
    data.ground.forEach((h, n) => {
      const x = px(data.ground_from + n * data.ground_step);
      if (x > SIDE && x < canvas.width - SIDE) pen.lineTo(x, py(h));
    });
    pen.stroke();
    if (data.kept.length) drawBike(data.kept[Math.min(k, data.kept.length - 1)], px, py, scale, true);
    drawBike(frame, px, py, scale, false);
    drawRuler(18, data.words.rear, 7, data.bump[0], frame, false);
    drawRuler(canvas.width - 40, data.words.front, 6, data.bump[1], frame, true);
    place.value = String(Math.round(100 * at / Math.max(data.frames.length - 1, 1)));
  }

  function tick(now) {
    if (!playing) return;
    // a frame's own time may lie before the press that began it
    at += Math.max(now - last, 0) / 1000 * data.hz * (slow ? 0.2 : 1);
    last = now;
    if (at >= data.frames.length - 1) { at = data.frames.length - 1; setPlaying(false); }
    draw();
    if (playing) requestAnimationFrame(tick);
  }

  function setPlaying(on) {
    if (on && at >= data.frames.length - 1) at = 0;
    playing = on;
    playButton.setAttribute("aria-pressed", String(on));
    last = performance.now();
    if (on) requestAnimationFrame(tick);
  }

  async function ride(kind, { play = false } = {}) {
    const bench = document.getElementById("bench");
    [piece, version] = [kind, bench.dataset.version];
    const answer = await fetch(`${stage.dataset.ride}?piece=${encodeURIComponent(kind)}`).catch(() => null);
    if (!answer || !answer.ok || piece !== kind || answer.headers.get("HX-Version") !== bench.dataset.version) return;
    const found = await answer.json();
    if (!data || data.kind !== found.kind) at = 0;
    data = found;
    canvas.setAttribute("aria-label", data.words.label);
    part("line").textContent = data.words.line;
    part("ghost").classList.toggle("clear", !data.kept.length);
    pieces.forEach((b) => b.setAttribute("aria-pressed", String(b.dataset.piece === data.kind)));
    playButton.disabled = slowButton.disabled = false;
    // at rest it shows the deepest moment, which is what the picture is for
    if (!play && !at) at = data.frames.reduce((deep, f, n) => (f[6] + f[7] > data.frames[deep][6] + data.frames[deep][7] ? n : deep), 0);
    draw();
    if (play) setPlaying(true);
  }

  pieces.forEach((button) => button.addEventListener("click", () => { setPlaying(false); ride(button.dataset.piece, { play: moves }); }));
  playButton.addEventListener("click", () => setPlaying(!playing));
  slowButton.addEventListener("click", () => { slow = !slow; slowButton.setAttribute("aria-pressed", String(slow)); });
  place.addEventListener("input", () => { if (!data) return; setPlaying(false); at = place.value / 100 * (data.frames.length - 1); draw(); });
  const asked = new URLSearchParams(location.search).get("piece");
  ride((pieces.find((b) => b.dataset.piece === asked) || pieces[0]).dataset.piece, { play: moves });
  return {
    stage,
    rest() { if (playing) setPlaying(false); },
    renew() { if (document.getElementById("bench").dataset.version !== version) ride(piece); },
  };
}

let shown = null;
function look() {
  const stage = document.getElementById("ride");
  if (!stage) { if (shown) shown.rest(); shown = null; return; }
  if (!shown || shown.stage !== stage) shown = picture(stage);
}
// what is asked of the server comes first: the picture rests, and shows the new setup once its outcomes stand
document.addEventListener("htmx:beforeRequest", () => { if (shown) shown.rest(); });
document.addEventListener("htmx:afterSettle", () => {
  look();
  if (shown && document.querySelector("#notches[data-fresh]")) shown.renew();
});
look();
