import { HISTORY, history, onMeter } from '../../meters/levels';
import { type Draw, useCanvas } from '../../meters/useCanvas';
import { dyeOf } from '../../look/tokens';
import own from './capture.module.css';

const STEP = 2;

/** A lane's peaks, newest at the right: in its dye while they were captured, pale while they were only heard, and a
 *  dotted thread while the track rested. */
export function HistoryStrip({ index, dye }: { index: number; dye: string }) {
  const draw: Draw = (paint, width, height, colours) => {
    const colour = dyeOf(colours, dye);
    const line = history.lanes[index];
    paint.fillStyle = colours.rule;
    paint.fillRect(0, height / 2, width, 1);
    if (!line) return;
    const columns = Math.min(Math.floor(width / STEP), line.at, HISTORY);
    for (let back = 0; back < columns; back += 1) {
      const at = (line.at - 1 - back) % HISTORY;
      const size = onMeter(line.peaks[at] ?? -144) * (height - 3);
      const captured = line.captured[at] === 1;
      if (line.captured[at] === 2) {
        // A thread that rests is dotted: every other column.
        paint.fillStyle = colour;
        if ((line.at - back) % 4 < 2) paint.fillRect(width - (back + 1) * STEP, height / 2 - 1, STEP, 2);
        continue;
      }
      if (size < 1) continue;
      paint.fillStyle = captured ? colour : colours.quiet;
      paint.globalAlpha = captured ? 1 : 0.35;
      paint.fillRect(width - (back + 1) * STEP, (height - size) / 2, STEP - 0.5, size);
    }
    paint.globalAlpha = 1;
  };
  return <canvas className={own.laneStrip} ref={useCanvas(draw, { slow: true })} aria-hidden="true" />;
}
