import { type PointerEvent, useRef } from 'react';
import { progress } from '../../meters/levels';
import { type Draw, useCanvas } from '../../meters/useCanvas';

export interface Range {
  from: number;
  to: number;
}

interface StripProps {
  frames: number;
  /** 0 to 255 in steps of 0.375 dB, 255 at full scale */
  peaks: number[];
  range: Range | null;
  playing: boolean;
  /** While it is dragged. */
  onRange: (range: Range) => void;
  /** When it is let go, or moved by a key. */
  onRangeDone: (range: Range) => void;
  label: string;
}

const LEAST = 0.01;
/** 60 dB of the overview's 95 are drawn. */
const FLOOR = 95;

/** The take drawn as levels; a range is dragged with the pointer, or moved with the arrow keys. */
export function TakeStrip({ frames, peaks, range, playing, onRange, onRangeDone, label }: StripProps) {
  const from = useRef<number | null>(null);
  const draw: Draw = (paint, width, height, colours) => {
    if (range) {
      paint.fillStyle = colours.lookGround;
      paint.fillRect((range.from / frames) * width, 0, ((range.to - range.from) / frames) * width, height);
    }
    const step = width / Math.max(1, peaks.length);
    paint.fillStyle = colours.action;
    peaks.forEach((peak, i) => {
      const size = Math.max(1, ((peak - FLOOR) / (255 - FLOOR)) * height);
      paint.fillRect(i * step, (height - size) / 2, Math.max(0.7, step * 0.6), size);
    });
    if (range) {
      paint.fillStyle = colours.lookEdge;
      for (const edge of [range.from, range.to]) paint.fillRect((edge / frames) * width - 1, 0, 2, height);
    }
    if (playing && progress.take_playback !== null) {
      paint.fillStyle = colours.stop;
      paint.fillRect((progress.take_playback / frames) * width - 1, 0, 2, height);
    }
  };

  const look = (width: number) =>
    playing ? `${Math.round(((progress.take_playback ?? 0) / frames) * width)}` : '';

  const place = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  };
  const drag = (event: PointerEvent) => {
    if (from.current === null) return;
    const [low, high] = [from.current, place(event)].sort((a, b) => a - b) as [number, number];
    if (high - low > LEAST) onRange({ from: Math.round(low * frames), to: Math.round(high * frames) });
  };
  return (
    <canvas
      ref={useCanvas(draw, { look })}
      role="slider"
      tabIndex={0}
      aria-label={`Range of ${label}`}
      aria-valuemin={0}
      aria-valuemax={frames}
      aria-valuenow={range?.from ?? 0}
      aria-valuetext={range ? `${range.from} to ${range.to}` : 'whole take'}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = place(event);
      }}
      onPointerMove={drag}
      onPointerUp={(event) => {
        drag(event);
        from.current = null;
        if (range) onRangeDone(range);
      }}
      onKeyDown={(event) => {
        const step =
          Math.round(frames / 50) * (event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0);
        if (step === 0) return;
        event.preventDefault();
        const now = range ?? { from: 0, to: frames };
        const next = event.shiftKey
          ? { from: now.from, to: now.to + step }
          : { from: now.from + step, to: now.to };
        if (next.from >= 0 && next.to <= frames && next.to > next.from) onRangeDone(next);
      }}
    />
  );
}
