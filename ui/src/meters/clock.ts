// One animation frame for all meters of the page, and only when there is something new to draw: levels of the desk and of the lanes
// come 20 times a second each, and are drawn together; none while the page is hidden. Figures that are read, and strips that move on,
// change less often than bars: a screen that plays all night must not take a processor.
const LEAST_MS = 125;
const SLOW_MS = 375;

interface Drawer {
  draw: () => void;
  slow: boolean;
}

const drawers = new Set<Drawer>();
let asked = false;
let drawn = -LEAST_MS;
let drawnSlow = -SLOW_MS;
let owed: ReturnType<typeof setTimeout> | undefined;

function frame() {
  asked = false;
  drawn = performance.now();
  if (document.hidden) return;
  const slow = drawn - drawnSlow >= SLOW_MS - LEAST_MS / 2;
  clearTimeout(owed);
  // Should nothing more arrive, what is drawn slowly is not left behind.
  if (slow) drawnSlow = drawn;
  else owed = setTimeout(touch, SLOW_MS);
  drawers.forEach((one) => {
    if (slow || !one.slow) one.draw();
  });
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

/** Calls a drawing function in each frame in which something has changed, until the returned function is called.
 *  `slow`: some three times a second, for what is read or moves on, not watched. */
export function eachFrame(draw: () => void, slow = false): () => void {
  const one = { draw, slow };
  drawers.add(one);
  touch();
  return () => drawers.delete(one);
}
