import Button from '@mui/material/Button';
import { type PointerEvent, useRef, useState } from 'react';
import type { Take } from '../../../api/client';
import { useWaveform } from '../../../api/queries';
import { clock } from '../../../look/format';
import { type Draw, useCanvas } from '../../../meters/useCanvas';
import { type Part, Placing } from './Placing';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

interface WaveformProps {
  take: Take;
  /** Number, or null for the loudest of all. */
  track: number | null;
  chosen: Part | null;
  onChoose: (part: Part) => void;
  /** M and S, as while capturing. */
  onMark: () => void;
  onSection: () => void;
}

const COLUMNS = 1000;
/** Frames that are shown at least. */
const CLOSEST = 2400;
/** 60 dB of the 95 that are told are drawn. */
const FLOOR = 95;
/** Room above for the markers' names. */
const HEAD = 18;
/** Height of what is missing, at the foot. */
const LOST = 6;

/** Below this many pixels a drag is a click. */
const DRAG = 4;

/** A take's loudness, zoomable from hours to hundredths of a second, with its markers and what is missing. A click chooses a place, a
 * drag a part. */
export function Waveform({ take, track, chosen, onChoose, onMark, onSection }: WaveformProps) {
  const [part, setPart] = useState<Part>({ from: 0, to: take.frames });
  const columns = useWaveform(take, COLUMNS, part, track ?? undefined).data?.peaks ?? [];
  const length = part.to - part.from;
  const dragged = useRef<number | null>(null);
  const draw: Draw = (paint, width, height, colours) => {
    paint.fillStyle = colours.meterGround;
    paint.fillRect(0, 0, width, height);
    const place = (frame: number) => ((frame - part.from) / length) * width;
    for (const marker of take.markers) {
      if (marker.frames > 0) {
        paint.fillStyle = colours.lookGround;
        paint.fillRect(place(marker.at), 0, place(marker.at + marker.frames) - place(marker.at), height);
      }
    }
    if (chosen) {
      paint.fillStyle = colours.chosen;
      paint.fillRect(place(chosen.from), 0, place(chosen.to) - place(chosen.from), height);
    }
    paint.fillStyle = colours.stop;
    for (const gap of take.missing)
      paint.fillRect(
        place(gap.at),
        height - LOST,
        Math.max(2, place(gap.at + gap.frames) - place(gap.at)),
        LOST,
      );
    for (const one of take.breaks) paint.fillRect(place(one.at) - 1, HEAD, 2, height - HEAD);
    const step = width / Math.max(1, columns.length);
    paint.fillStyle = colours.action;
    columns.forEach((peak, at) => {
      const room = height - HEAD;
      const tall = Math.max(1, ((peak - FLOOR) / (255 - FLOOR)) * room);
      paint.fillRect(at * step, HEAD + (room - tall) / 2, Math.max(0.8, step), tall);
    });
    for (const marker of take.markers) {
      paint.fillStyle = colours.lookEdge;
      paint.fillRect(place(marker.at) - 1, 0, 2, height);
      paint.fillStyle = colours.text;
      paint.font = '12px "Atkinson Hyperlegible Next"';
      paint.fillText(marker.name, place(marker.at) + 4, 13);
    }
    if (chosen) {
      paint.fillStyle = colours.action;
      for (const edge of [chosen.from, chosen.to]) paint.fillRect(place(edge) - 1, HEAD, 2, height - HEAD);
    }
  };

  const choose = (event: PointerEvent, done: boolean) => {
    if (dragged.current === null) return;
    const box = event.currentTarget.getBoundingClientRect();
    const places = [dragged.current, event.clientX].map((x) =>
      Math.round(Math.min(take.frames, Math.max(0, part.from + ((x - box.left) / box.width) * length))),
    );
    const far = Math.abs(event.clientX - dragged.current) >= DRAG;
    const [from, to] = places.sort((a, b) => a - b) as [number, number];
    if (far) onChoose({ from, to });
    else if (done) onChoose({ from, to: from });
    if (done) dragged.current = null;
  };

  const zoom = (factor: number, at = 0.5) => {
    const middle = part.from + length * at;
    const next = Math.min(take.frames, Math.max(CLOSEST, length * factor));
    const from = Math.round(Math.min(Math.max(0, middle - next * at), take.frames - next));
    setPart({ from, to: Math.round(from + next) });
  };
  const move = (share: number) => {
    const from = Math.round(Math.min(Math.max(0, part.from + length * share), take.frames - length));
    setPart({ from, to: from + length });
  };
  return (
    <div>
      <canvas
        className={own.waveform}
        ref={useCanvas(draw, { look: () => '' })}
        role="img"
        tabIndex={0}
        aria-label={`Loudness from ${clock(part.from / take.rate)} to ${clock(part.to / take.rate)}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          dragged.current = event.clientX;
        }}
        onPointerMove={(event) => choose(event, false)}
        onPointerUp={(event) => choose(event, true)}
        onWheel={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          zoom(event.deltaY > 0 ? 1.5 : 1 / 1.5, (event.clientX - box.left) / box.width);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft') move(-0.2);
          else if (event.key === 'ArrowRight') move(0.2);
          else if (event.key === '+') zoom(0.5);
          else if (event.key === '-') zoom(2);
          else if (event.key === 'Enter') {
            const middle = Math.round(part.from + length / 2);
            onChoose({ from: middle, to: middle });
          } else if (event.key.toLowerCase() === 'm') onMark();
          else if (event.key.toLowerCase() === 's') onSection();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      <div className={styles.row}>
        <Placing chosen={chosen} rate={take.rate} onMark={onMark} onSection={onSection} />
        <span className={styles.room} />
        <Button size="small" onClick={() => zoom(0.5)}>
          Zoom in
        </Button>
        <Button size="small" onClick={() => zoom(2)}>
          Zoom out
        </Button>
        <Button size="small" onClick={() => setPart({ from: 0, to: take.frames })}>
          Fit
        </Button>
        <span className={cx(styles.quiet, styles.figure)}>
          {clock(part.from / take.rate)} to {clock(part.to / take.rate)} · <kbd>+</kbd> <kbd>-</kbd>{' '}
          <kbd>←</kbd> <kbd>→</kbd>
        </span>
      </div>
    </div>
  );
}
