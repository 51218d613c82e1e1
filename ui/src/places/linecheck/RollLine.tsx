import Button from '@mui/material/Button';
import { type KeyboardEvent, memo, useMemo } from 'react';
import type { RollLine as Line, Settings } from '../../api/client';
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
  // The same objects again while they say the same, so that a figure that moves by a tenth draws neither the meters nor what to do again.
  const band = useMemo<[number, number]>(
    () => [alignment - tolerance, alignment + tolerance],
    [alignment, tolerance],
  );
  const points = useMemo(() => ({ of: line.meter, at: line.at }), [line.meter, line.at]);
  const keys = (event: KeyboardEvent<HTMLElement>) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'ArrowDown') focusOn(event.currentTarget.nextElementSibling);
    else if (event.key === 'ArrowUp') focusOn(event.currentTarget.previousElementSibling);
    else if (event.key === ' ') void tickHeard(line.channel, !line.heard);
    else if (event.key === 'Enter') apply(line.settings, line.advice, title);
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
        {line.was !== null && (
          <span className={styles.inLook}>
            changed since it was checked{line.heard && ` at ${timeOf(line.heard.at)}`}: was {line.was}
          </span>
        )}
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
      <Todo
        channel={line.channel}
        title={title}
        advice={line.advice}
        settings={line.settings}
        heard={line.heard}
        silent={line.verdict === 'not heard yet'}
      />
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

function apply(settings: Settings, advice: string | null, title: string) {
  if (Object.keys(settings).length > 0) void set(settings, `Line check, ${title}: ${advice}`);
}

interface TodoProps extends Pick<Line, 'channel' | 'advice' | 'settings' | 'heard'> {
  title: string;
  /** Nothing was heard of it yet, so that there is nothing to tick. */
  silent: boolean;
}

/** The one thing to do; and the tick, once it was heard. */
const Todo = memo(function Todo({ channel, title, advice, settings, heard, silent }: TodoProps) {
  const settable = Object.keys(settings).length > 0;
  return (
    <div className={own.rollTodo}>
      {settable && (
        <Button variant="contained" tabIndex={-1} onClick={() => apply(settings, advice, title)}>
          {advice}
        </Button>
      )}
      {!settable && advice && <span className={own.rollAdvice}>{advice}</span>}
      {heard ? (
        <button
          type="button"
          className={cx(own.rollTick, styles.inWell, styles.strong)}
          tabIndex={-1}
          onClick={() => void tickHeard(channel, false)}
        >
          ✓ checked {timeOf(heard.at)} {heard.who}
        </button>
      ) : (
        !silent && (
          <button
            type="button"
            className={cx(own.rollTick, styles.quiet)}
            tabIndex={-1}
            aria-label={`Mark as checked: ${title}`}
            onClick={() => void tickHeard(channel, true)}
          >
            Mark as checked
          </button>
        )
      )}
    </div>
  );
});
