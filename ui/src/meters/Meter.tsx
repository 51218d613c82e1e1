import { levelOf, type MeterPoint, onMeter } from './levels';
import { type Draw, useCanvas } from './useCanvas';
import { cx } from '../look/cx';
import own from './meters.module.css';

const HIGH_DB = -12;
const OVER_DB = -3;

/** A horizontal meter: bar to the peak, a lighter part above the RMS, a line at the held peak, and a clip mark. */
export function Meter({
  point,
  label,
  className,
}: {
  point: MeterPoint;
  /** null: within a control, which has its own words. */
  label: string | null;
  className?: string | undefined;
}) {
  const draw: Draw = (paint, width, height, colours) => {
    const level = levelOf(point);
    const full = width - 8;
    paint.fillStyle = colours.meterGround;
    paint.fillRect(0, 0, width, height);
    const end = onMeter(level.peak) * full;
    const parts: [number, string][] = [
      [onMeter(HIGH_DB) * full, colours.meterLow],
      [onMeter(OVER_DB) * full, colours.meterHigh],
      [full, colours.meterOver],
    ];
    let from = 0;
    for (const [to, colour] of parts) {
      if (end > from) {
        paint.fillStyle = colour;
        paint.globalAlpha = 0.55;
        paint.fillRect(from, 0, Math.min(end, to) - from, height);
        paint.globalAlpha = 1;
        const body = Math.min(onMeter(level.rms) * full, end, to);
        if (body > from) paint.fillRect(from, 0, body - from, height);
      }
      from = to;
    }
    if (level.hold > -60) {
      paint.fillStyle = colours.text;
      paint.fillRect(onMeter(level.hold) * full - 1, 0, 2, height);
    }
    paint.fillStyle = level.clips > 0 ? colours.meterOver : colours.rule;
    paint.fillRect(width - 6, 0, 6, height);
  };
  const spoken = label === null ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label };
  const look = (width: number) => {
    const { peak, rms, hold, clips } = levelOf(point);
    return [peak, rms, hold, clips > 0 ? 0 : -60]
      .map((level) => Math.round(onMeter(level) * width))
      .join(' ');
  };
  return <canvas className={cx(own.meter, className)} ref={useCanvas(draw, { look })} {...spoken} />;
}
