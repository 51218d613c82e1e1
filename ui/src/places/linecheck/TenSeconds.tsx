import { memo } from 'react';
import { CLIP_DB, loudest, type MeterPoints, onMeter, recentPeak, TEN_SECONDS } from '../../meters/levels';
import { type Draw, useCanvas } from '../../meters/useCanvas';
import { dyeOf } from '../../look/tokens';
import own from './linecheck.module.css';

interface Props {
  points: MeterPoints;
  dye: string;
  band: [from: number, to: number];
}

/** The last ten seconds of peaks, newest at the right, with the wanted band behind. */
export const TenSeconds = memo(function TenSeconds({ points, dye, band }: Props) {
  const draw: Draw = (paint, width, height, colours) => {
    paint.fillStyle = colours.meterGround;
    paint.fillRect(0, 0, width, height);
    paint.fillStyle = colours.band;
    const top = height * (1 - onMeter(band[1]));
    paint.fillRect(0, top, width, height * (1 - onMeter(band[0])) - top);
    const step = width / TEN_SECONDS;
    for (let back = 0; back < TEN_SECONDS; back += 1) {
      const peak = loudest(points, (one) => recentPeak(one, back));
      const size = onMeter(peak) * height;
      if (size < 1) continue;
      paint.fillStyle = peak >= CLIP_DB ? colours.meterOver : dyeOf(colours, dye);
      paint.fillRect(width - (back + 1) * step, height - size, Math.max(step - 0.4, 0.6), size);
    }
  };
  return <canvas className={own.rollStrip} ref={useCanvas(draw, { slow: true })} aria-hidden="true" />;
});
