import { memo } from 'react';
import { CLIP_DB, levelOf, loudest, type MeterPoints, onMeter } from '../../meters/levels';
import { type Draw, useCanvas } from '../../meters/useCanvas';
import { dyeOf } from '../../look/tokens';
import own from './linecheck.module.css';

interface Props {
  points: MeterPoints;
  dye: string;
  band: [from: number, to: number];
  label: string;
}

/** The level now over the wanted band: bar to the RMS, lighter to the peak, a line at the held peak. */
export const BandMeter = memo(function BandMeter({ points, dye, band, label }: Props) {
  const draw: Draw = (paint, width, height, colours) => {
    paint.fillStyle = colours.meterGround;
    paint.fillRect(0, 0, width, height);
    paint.fillStyle = colours.band;
    const from = onMeter(band[0]) * width;
    paint.fillRect(from, 0, onMeter(band[1]) * width - from, height);
    const [peak, rms, hold] = (['peak', 'rms', 'hold'] as const).map((part) =>
      loudest(points, (one) => levelOf(one)[part]),
    ) as [number, number, number];
    paint.fillStyle = peak >= CLIP_DB ? colours.meterOver : dyeOf(colours, dye);
    paint.globalAlpha = 0.5;
    paint.fillRect(0, 3, onMeter(peak) * width, height - 6);
    paint.globalAlpha = 1;
    paint.fillRect(0, 3, onMeter(rms) * width, height - 6);
    if (hold > -60) {
      paint.fillStyle = colours.text;
      paint.fillRect(Math.min(onMeter(hold) * width, width - 3), 0, 3, height);
    }
  };
  const look = (width: number) =>
    [...(['peak', 'rms', 'hold'] as const)]
      .map((part) => Math.round(onMeter(loudest(points, (one) => levelOf(one)[part])) * width))
      .join(' ') + (loudest(points, (one) => levelOf(one).peak) >= CLIP_DB ? ' over' : '');
  return <canvas className={own.rollMeter} ref={useCanvas(draw, { look })} role="img" aria-label={label} />;
});
