// One animation frame for all meters of the page, and only when there is something new to draw: levels of the desk and of the lanes
// come 20 times a second each, and are drawn together that often; none while the page is hidden.
const LEAST_MS = 40;
const drawers = new Set<() => void>();
let asked = false;
let drawn = -LEAST_MS;

function frame() {
  asked = false;
  drawn = performance.now();
  if (!document.hidden) drawers.forEach((draw) => draw());
}

/** Something that is drawn has changed. */
export function touch() {
  if (asked || document.hidden || drawers.size === 0) return;
  asked = true;
  const wait = drawn + LEAST_MS - performance.now();
  if (wait <= 0) requestAnimationFrame(frame);
  else setTimeout(() => requestAnimationFrame(frame), wait);
}

document.addEventListener('visibilitychange', touch);
window.addEventListener('resize', touch);

/** Calls a drawing function in each frame in which something has changed, until the returned function is called. */
export function eachFrame(draw: () => void): () => void {
  drawers.add(draw);
  touch();
  return () => drawers.delete(draw);
}
