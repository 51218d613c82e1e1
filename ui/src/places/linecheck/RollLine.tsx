import Button from '@mui/material/Button';
import type { CSSProperties, KeyboardEvent } from 'react';
import type { RollCall, RollLine as Line } from '../../api/client';
import { set } from '../../api/edits';
import { useNoise } from '../../api/live';
import { count, decibels } from '../../look/format';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { BandMeter } from './BandMeter';
import { kindOf, tickHeard, timeOf } from './roll';
import { TenSeconds } from './TenSeconds';

interface Props {
  line: Line;
  roll: RollCall;
}

/** One source: name, verdict and why, the last ten seconds, the level, and what to do. */
export function RollLine({ line, roll }: Props) {
  const { name: theme } = useThemeName();
  const colour = dyeColour(line.dye, theme);
  const noisy = useNoise() === line.channel;
  const title = line.name || `Channel ${line.channel}`;
  const band: [number, number] = [roll.alignment - roll.tolerance, roll.alignment + roll.tolerance];
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
    <article
      role="listitem"
      className={`roll-line ${noisy ? 'noisy' : ''}`}
      style={{ '--dye': colour } as CSSProperties}
      tabIndex={0}
      onKeyDown={keys}
      aria-label={`${title}: ${line.verdict}, ${line.reason}`}
    >
      <div className="roll-name">
        <strong>{title}</strong>
        <span className="quiet figure">
          channel {line.channel} · {line.socket}
          {line.gain !== null && ` · ${line.gain < 0 ? '−' : '+'}${Math.abs(line.gain)} dB`}
        </span>
      </div>
      <div className="roll-verdict">
        <strong className={kindOf(line.verdict)}>{line.verdict}</strong>
        <span className="quiet figure">{line.reason}</span>
        {line.also.map((one) => (
          <span key={one} className="look figure">
            {one}
          </span>
        ))}
      </div>
      <TenSeconds points={points} colour={colour} band={band} />
      <div>
        <BandMeter points={points} colour={colour} band={band} label={`Level of ${title}`} />
        <span className="roll-figures quiet figure">{figures(line)}</span>
      </div>
      <Todo line={line} title={title} />
    </article>
  );
}

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
    <div className="roll-todo">
      {settable && (
        <Button variant="contained" tabIndex={-1} onClick={() => apply(line, title)}>
          {line.advice}
        </Button>
      )}
      {!settable && line.advice && <span className="roll-advice">{line.advice}</span>}
      {line.heard ? (
        <button type="button" className="roll-tick well" tabIndex={-1} onClick={() => void tickHeard(line)}>
          ✓ heard {timeOf(line.heard.at)} {line.heard.who}
        </button>
      ) : (
        line.verdict !== 'not heard yet' && (
          <button
            type="button"
            className="roll-tick quiet"
            tabIndex={-1}
            aria-label={`Tick ${title} as heard`}
            onClick={() => void tickHeard(line)}
          >
            tick as heard
          </button>
        )
      )}
    </div>
  );
}
