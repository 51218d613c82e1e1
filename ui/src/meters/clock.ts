// One animation frame for all meters of the page; none while it is hidden.
const drawers = new Set<() => void>();
let running = false;

function frame() {
  if (document.hidden || drawers.size === 0) {
    running = false;
    return;
  }
  drawers.forEach((draw) => draw());
  requestAnimationFrame(frame);
}

function wake() {
  if (running || document.hidden || drawers.size === 0) return;
  running = true;
  requestAnimationFrame(frame);
}

document.addEventListener('visibilitychange', wake);

/** Calls a drawing function each frame until the returned function is called. */
export function eachFrame(draw: () => void): () => void {
  drawers.add(draw);
  wake();
  return () => drawers.delete(draw);
}
