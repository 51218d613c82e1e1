import Button from '@mui/material/Button';
import { type KeyboardEvent, memo } from 'react';
import type { RollLine as Line } from '../../api/client';
import { set } from '../../api/edits';
import { useNoisy } from '../../api/live';
import { count, decibels } from '../../look/format';
import { BandMeter } from './BandMeter';
import { kindOf, tickHeard, timeOf } from './roll';
import { TenSeconds } from './TenSeconds';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './linecheck.module.css';

const TONES = { '': undefined, stop: styles.inStop, look: styles.inLook, well: styles.inWell };

interface Props {
  line: Line;
  /** Where loud parts belong (dBFS), and how far off they may be (dB). */
  alignment: number;
  tolerance: number;
}

/** One source: name, verdict and why, the last ten seconds, the level, and what to do. */
export const RollLine = memo(function RollLine({ line, alignment, tolerance }: Props) {
  const noisy = useNoisy(line.channel);
  const title = line.name || `Channel ${line.channel}`;
  const band: [number, number] = [alignment - tolerance, alignment + tolerance];
  const points = { of: line.meter, at: line.at };
  const keys = (event: KeyboardEvent<HTMLElement>) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'ArrowDown') focusOn(event.currentTarget.nextElementSibling);
    else if (event.key === 'ArrowUp') focusOn(event.currentTarget.previousElementSibling);
    else if (event.key === ' ') void tickHeard(line);
    else if (event.key === 'Enter') apply(line, title);
    else return;
    event.preventDefault();
  };
  return (
    <div
      role="listitem"
      className={cx(own.rollLine, noisy && own.noisy)}
      data-dye={line.dye}
      tabIndex={0}
      onKeyDown={keys}
      aria-label={`${title}: ${line.verdict}, ${line.reason}`}
    >
      <div className={own.rollName}>
        <strong>{title}</strong>
        <span className={cx(styles.quiet, styles.figure)}>
          channel {line.channel} · {line.socket}
          {line.gain !== null && ` · ${line.gain < 0 ? '−' : '+'}${Math.abs(line.gain)} dB`}
        </span>
      </div>
      <div className={own.rollVerdict}>
        <strong className={TONES[kindOf(line.verdict)]}>{line.verdict}</strong>
        <span className={cx(styles.quiet, styles.figure)}>{line.reason}</span>
        {line.also.map((one) => (
          <span key={one} className={cx(styles.inLook, styles.figure)}>
            {one}
          </span>
        ))}
      </div>
      <TenSeconds points={points} dye={line.dye} band={band} />
      <div>
        <BandMeter points={points} dye={line.dye} band={band} label={`Level of ${title}`} />
        <span className={cx(own.rollFigures, styles.quiet, styles.figure)}>{figures(line)}</span>
      </div>
      <Todo line={line} title={title} />
    </div>
  );
});

/** Highest peak, room, and clips of what was heard. */
function figures({ peak, floor, clips }: Line): string {
  const parts = [
    peak === null ? null : `peak ${decibels(peak)}`,
    floor === null ? null : `noise floor ${decibels(floor)}`,
  ];
  return [...parts.filter(Boolean), ...(clips > 0 ? [count(clips, 'clip')] : [])].join(' · ');
}

const focusOn = (element: Element | null) => element instanceof HTMLElement && element.focus();

function apply(line: Line, title: string) {
  if (Object.keys(line.settings).length > 0) void set(line.settings, `Line check, ${title}: ${line.advice}`);
}

/** The one thing to do; and the tick, once it was heard. */
function Todo({ line, title }: { line: Line; title: string }) {
  const settable = Object.keys(line.settings).length > 0;
  return (
    <div className={own.rollTodo}>
      {settable && (
        <Button variant="contained" tabIndex={-1} onClick={() => apply(line, title)}>
          {line.advice}
        </Button>
      )}
      {!settable && line.advice && <span className={own.rollAdvice}>{line.advice}</span>}
      {line.heard ? (
        <button
          type="button"
          className={cx(own.rollTick, styles.inWell, styles.strong)}
          tabIndex={-1}
          onClick={() => void tickHeard(line)}
        >
          ✓ heard {timeOf(line.heard.at)} {line.heard.who}
        </button>
      ) : (
        line.verdict !== 'not heard yet' && (
          <button
            type="button"
            className={cx(own.rollTick, styles.quiet)}
            tabIndex={-1}
            aria-label={`tick as heard: ${title}`}
            onClick={() => void tickHeard(line)}
          >
            tick as heard
          </button>
        )
      )}
    </div>
  );
}
