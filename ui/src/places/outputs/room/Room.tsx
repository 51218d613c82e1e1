import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Outputs, Settings } from '../../../api/client';
import { set, step } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { FigureField } from './FigureField';
import { lateness } from '../listening/heard';
import { RoomPlan } from './RoomPlan';
import { type Thing, things } from './room';
import own from '../outputs.module.css';

const FOOT = 0.3048;

/** Where speakers and listeners stand, and when each speaker is heard: as a plan to drag in, and as a table. */
export function Room({ outputs }: { outputs: Outputs }) {
  const [feet, inFeet] = useState(false);
  const all = things(outputs);
  const unit = { scale: feet ? FOOT : 1, name: feet ? 'ft' : 'm' };
  return (
    <>
      <div className={styles.tools}>
        <label className={styles.hint}>
          Air{' '}
          <FigureField
            label="Air temperature"
            path="setup/temperature"
            value={outputs.temperature}
            unit="°C"
          />
        </label>
        <span className={styles.hint}>speed of sound {outputs.speed.toFixed(1)} m/s</span>
        <label className={styles.hint}>
          Extra delay for delay speakers (ms){' '}
          <FigureField
            label="Extra delay for delay speakers (ms)"
            path="setup/later_ms"
            value={outputs.later_ms}
            unit="ms"
          />
        </label>
        <button type="button" className={styles.chip} aria-pressed={feet} onClick={() => inFeet(!feet)}>
          {feet ? 'in feet' : 'in metres'}
        </button>
        <Button
          variant="contained"
          className={styles.end}
          disabled={outputs.zones.length === 0}
          onClick={() => void lookAt('speaker_delays')}
        >
          Set all delays…
        </Button>
      </div>
      <div className={own.room}>
        <RoomPlan things={all} onMove={(thing, x, y) => void set(moved(thing, x, y))} />
        <div>
          <AddSpeaker outputs={outputs} />
          <table className={cx(styles.plain, styles.stacked, own.places)}>
            <thead>
              <tr>
                <th>What</th>
                <th>To the right ({unit.name})</th>
                <th>From stage ({unit.name})</th>
                <th>Delay (ms)</th>
                <th>Heard</th>
              </tr>
            </thead>
            <tbody>
              {all.map((thing) => (
                <ThingRow key={thing.path} thing={thing} outputs={outputs} unit={unit} />
              ))}
            </tbody>
          </table>
          <p className={styles.hint}>
            Arrival is measured at the listener, or else at the speaker. Positions are from the centre of the
            stage edge. 10 to 20 ms after main is common practice to keep the image on stage.
          </p>
        </div>
      </div>
    </>
  );
}

const moved = (thing: Thing, x: number, y: number): Settings => ({
  [`${thing.path}/x`]: x,
  [`${thing.path}/y`]: y,
});

interface RowProps {
  thing: Thing;
  outputs: Outputs;
  unit: { scale: number; name: string };
}

function ThingRow({ thing, outputs, unit }: RowProps) {
  const zone = outputs.zones.find((one) => `output/${one.output}` === thing.path);
  return (
    <tr>
      <td>
        {thing.name}
        {thing.speaker && (
          <select
            className={own.pickSmall}
            aria-label={`What the speaker on ${thing.name} is`}
            value={thing.speaker}
            onChange={(event) => void set({ [`${thing.path}/speaker`]: event.target.value || null })}
          >
            <option value="main">main</option>
            <option value="zone">delayed</option>
            <option value="">no speaker</option>
          </select>
        )}
      </td>
      {(['x', 'y'] as const).map((axis) => (
        <td key={axis} data-head={`${axis === 'x' ? 'To the right' : 'From stage'} (${unit.name})`}>
          <FigureField
            label={`${thing.name} ${axis === 'x' ? 'to the right' : 'from the stage'}`}
            path={`${thing.path}/${axis}`}
            value={thing[axis]}
            scale={unit.scale}
            onSet={(settings) => void set(rounded(settings))}
          />
        </td>
      ))}
      <td data-head="Delay (ms)">
        {thing.delay !== null && (
          <FigureField
            label={`Delay of ${thing.name}`}
            path={`${thing.path}/delay`}
            value={thing.delay}
            scale={outputs.rate / 1000}
            onSet={(settings) => void set(whole(settings))}
          />
        )}
      </td>
      <td
        data-head="Heard"
        className={cx(styles.figure, zone && Math.abs(zone.late_ms) > 1 ? styles.inLook : styles.quiet)}
      >
        {zone ? lateness(zone.late_ms) : ''}
        {zone && Math.abs(zone.late_ms) > 0.05 && <small>; needs {zone.wanted_ms.toFixed(1)} ms</small>}
      </td>
    </tr>
  );
}

const each = (settings: Settings, change: (value: number) => number): Settings =>
  Object.fromEntries(
    Object.entries(settings).map(([path, value]) => [
      path,
      typeof value === 'number' ? change(value) : value,
    ]),
  );
const rounded = (settings: Settings) => each(settings, (value) => Number(value.toFixed(2)));
const whole = (settings: Settings) =>
  Object.fromEntries(Object.entries(each(settings, Math.round)).map(([path, value]) => [path, value ?? 0]));

/** An output becomes a speaker's. */
function AddSpeaker({ outputs }: { outputs: Outputs }) {
  const free = outputs.outputs.filter((one) => one.speaker === null && one.source !== null);
  if (free.length === 0) return null;
  return (
    <label className={styles.hint}>
      An output feeds a speaker:{' '}
      <select
        className={styles.find}
        value=""
        aria-label="Add a speaker"
        onChange={(event) => void step('speaker', { output: Number(event.target.value) })}
      >
        <option value="">choose …</option>
        {free.map((one) => (
          <option key={one.number} value={one.number}>
            Output {one.number}, {one.label}
          </option>
        ))}
      </select>
    </label>
  );
}
