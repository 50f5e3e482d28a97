// The moving picture of a ride: draws what the server reckoned, frame by frame. No calculation of the job.
"use strict";

const stage = document.querySelector("[data-ride]");
const data = JSON.parse(document.getElementById("ride-data").textContent);
const canvas = stage.querySelector("canvas");
const pen = canvas.getContext("2d");
const playButton = stage.querySelector("[data-ride-play]");
const slowButton = stage.querySelector("[data-ride-slow]");
const place = stage.querySelector("[data-ride-place]");
// on a phone fewer metres are shown, so that bike and words stay large enough
const narrow = canvas.clientWidth < 600;
if (narrow) canvas.width = 560;
// pixels per metre, fewer when the rider flies high: the head stays in the picture
const highest = Math.max(...data.frames.map((f) => f[5])) + 1.9;
const FOOT = narrow ? 110 : 46;
const SCALE = Math.min(narrow ? 110 : 170, (canvas.height - FOOT - 6) / highest);
// the rulers of both ends: beside the bike, or below it where there is no room
const RULERS = narrow ? [20, canvas.height - 66] : [canvas.width - 380, 22];
let playing = false;
let slow = false;
let at = 0;
let last = 0;

function colour(name) { return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "#1c2721"; }

// the tones of the plate, as they are by day or night
const FILLS = { tyre: 1, rim: 1, hub: 1, alloy: 1, sprocket: 1, frame: 1, paper: 1, tank: 1, fuel: 1, plastic: 1, seat: 1, ink: 1, upper: 1, pipe: 1, guard: 1, bag: 1, head: 1 };
const probe = document.createElement("i");
probe.hidden = true;
document.body.append(probe);
function tone(name) { probe.style.color = `var(--pl-${name})`; return getComputedStyle(probe).color; }
const tones = Object.fromEntries([...Object.keys(FILLS), "coil", "limb", "line"].map((name) => [name, tone(name)]));

// the parts where the frame has them: wheels with their axles, arm and legs between, the rider over the body
function drawBike(frame, px, py) {
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
  data.parts.forEach(([group, style, closed, width, radius, points, sway]) => {
    const at = points.map((p, k) => { const [a, b] = moved[group](p, sway[k]); return [px(x + a), py(b)]; });
    pen.beginPath();
    if (radius) pen.arc(at[0][0], at[0][1], radius * SCALE, 0, 2 * Math.PI);
    else at.forEach(([a, b]) => pen.lineTo(a, b));
    if (closed && !radius) pen.closePath();
    pen.globalAlpha = group === "rider" ? 0.55 : 1;
    if (FILLS[style] && (closed || radius)) { pen.fillStyle = tones[style]; pen.fill(); }
    pen.lineCap = width ? "round" : "butt";
    pen.lineWidth = width ? width * SCALE : { coil: 2.4, chain: 2, handlebar: 4 }[style] || (style === "spoke" ? 0.6 : 1.2);
    pen.strokeStyle = tones[style === "coil" || style === "limb" ? style : "line"];
    if (group !== "rider" || width) pen.stroke();
    pen.globalAlpha = 1;
  });
}

function draw() {
  const frame = data.frames[Math.min(Math.floor(at), data.frames.length - 1)];
  const [x, , , , , , fork, shock] = frame;
  const left = x - 2.2;
  const px = (m) => (m - left) * SCALE;
  const py = (m) => canvas.height - FOOT - m * SCALE;
  const ink = colour("--ink"), soft = colour("--edge"), moss = colour("--moss"), rust = colour("--rust");
  pen.clearRect(0, 0, canvas.width, canvas.height);
  pen.lineWidth = 4;
  pen.strokeStyle = soft;
  pen.beginPath();
  data.ground.forEach((h, k) => {
    const gx = data.ground_from + k * data.ground_step;
    if (gx > left - 0.2 && gx < left + canvas.width / SCALE + 0.2) pen.lineTo(px(gx), py(h));
  });
  pen.stroke();
  drawBike(frame, px, py);
  pen.font = "20px 'Archivo Narrow', sans-serif";
  [["shock", shock, 0], ["fork", fork, 34]].forEach(([name, used, down]) => {
    const [left, top] = [RULERS[0], RULERS[1] + down];
    pen.fillStyle = ink;
    pen.fillText(data.words[name], left, top + 17);
    pen.fillStyle = colour("--rail");
    pen.fillRect(left + 90, top, 260, 20);
    pen.fillStyle = used >= 0.99 ? rust : moss;
    pen.fillRect(left + 90, top, 260 * Math.max(0, Math.min(1, used)), 20);
  });
  place.value = String(Math.round(100 * at / Math.max(data.frames.length - 1, 1)));
}

function tick(now) {
  if (!playing) return;
  // a frame's own time may lie before the press that began it
  at += Math.max(now - last, 0) / 1000 * data.hz * (slow ? 0.2 : 1);
  last = now;
  if (at >= data.frames.length) at = 0;
  draw();
  requestAnimationFrame(tick);
}

function setPlaying(on) {
  playing = on;
  playButton.setAttribute("aria-pressed", String(on));
  last = performance.now();
  if (on) requestAnimationFrame(tick);
}

playButton.addEventListener("click", () => setPlaying(!playing));
slowButton.addEventListener("click", () => { slow = !slow; slowButton.setAttribute("aria-pressed", String(slow)); });
place.addEventListener("input", () => { setPlaying(false); at = place.value / 100 * (data.frames.length - 1); draw(); });
draw();
playButton.disabled = slowButton.disabled = false;
if (!matchMedia("(prefers-reduced-motion: reduce)").matches) setPlaying(true);
