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
const highest = Math.max(...data.frames.map((f) => f[5])) + data.radius + 1.8;
const SCALE = Math.min(narrow ? 110 : 125, (canvas.height - 116) / highest);
let playing = false;
let slow = false;
let at = 0;
let last = 0;

function colour(name) { return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "#1c2721"; }

function draw() {
  const frame = data.frames[Math.min(Math.floor(at), data.frames.length - 1)];
  const [x, body, pitch, front, rear, rider, fork, shock] = frame;
  const back = x, ahead = x + data.to_front + data.to_rear;
  const left = x - 2.2;
  const px = (m) => (m - left) * SCALE;
  const py = (m) => canvas.height - 110 - m * SCALE;
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
  const wheel = (wx, z) => { pen.beginPath(); pen.arc(px(wx), py(z + data.radius), data.radius * SCALE, 0, 2 * Math.PI); pen.stroke(); };
  pen.strokeStyle = ink;
  wheel(back, rear);
  wheel(ahead, front);
  const cg = back + data.to_rear, up = data.radius + 0.28;
  const line = (ax, az, bx, bz, css, width) => { pen.strokeStyle = css; pen.lineWidth = width; pen.beginPath(); pen.moveTo(px(ax), py(az)); pen.lineTo(px(bx), py(bz)); pen.stroke(); };
  const over = (distance, extra) => body + pitch * distance + extra;
  line(back, rear + data.radius, cg - 0.25, over(-0.25, up), shock >= 0.99 ? rust : moss, 8);
  line(ahead, front + data.radius, ahead - 0.24, over(data.to_front - 0.24, up + 0.34), fork >= 0.99 ? rust : moss, 8);
  line(cg - 0.62, over(-0.62, up + 0.34), ahead - 0.24, over(data.to_front - 0.24, up + 0.34), ink, 10);
  line(cg - 0.25, over(-0.25, up), ahead - 0.3, over(data.to_front - 0.3, up + 0.2), ink, 5);
  const foot = cg + data.peg;
  line(foot, over(data.peg, up - 0.1), foot - 0.1, rider + up + 0.75, ink, 6);
  line(foot - 0.1, rider + up + 0.75, foot + 0.1, rider + up + 1.2, ink, 6);
  line(foot + 0.1, rider + up + 1.15, ahead - 0.3, over(data.to_front - 0.3, up + 0.45), ink, 4);
  pen.fillStyle = ink;
  pen.beginPath();
  pen.arc(px(foot + 0.16), py(rider + up + 1.36), 0.13 * SCALE, 0, 2 * Math.PI);
  pen.fill();
  pen.font = "20px sans-serif";
  [["shock", shock, 0], ["fork", fork, 34]].forEach(([name, used, down]) => {
    const top = canvas.height - 66 + down;
    pen.fillStyle = ink;
    pen.fillText(data.words[name], 20, top + 17);
    pen.fillStyle = colour("--rail");
    pen.fillRect(110, top, 260, 20);
    pen.fillStyle = used >= 0.99 ? rust : moss;
    pen.fillRect(110, top, 260 * Math.max(0, Math.min(1, used)), 20);
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
