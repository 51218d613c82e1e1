import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type RollCall, taken } from '../../api/client';
import { set, useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { lookAt } from '../../api/preview';
import { refresh, useRoll } from '../../api/queries';
import { adviceOf, kindOf, order, type Sorting, VERDICTS, type Verdict } from './roll';
import { RollLine } from './RollLine';
import { useHeldOrder } from './useHeldOrder';
import { QueryState } from '../../app/status/QueryState';
import { StateNote } from '../../app/status/StateNote';
import { Away } from '../../app/status/Away';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './linecheck.module.css';

/** The roll call: a line a source, by need, with what was heard and the one thing to do. */
export default function LineCheckPlace() {
  return (
    <main>
      <Away of={['desk', 'recorder']} />
      <QueryState of={useRoll()} waiting="Listening …">
        {(roll) => <Roll roll={roll} />}
      </QueryState>
    </main>
  );
}

function Roll({ roll }: { roll: RollCall }) {
  const [sorting, setSorting] = useState<Sorting>('need');
  const [only, setOnly] = useState<Verdict | null>(null);
  const { order: held, hold } = useHeldOrder(order(roll.lines, sorting));
  const lines = only ? held.filter((line) => line.verdict === only) : held;
  const state = useLiveState();
  return (
    <>
      <div className={styles.tools}>
        {VERDICTS.map((verdict) => (
          <Tally key={verdict} verdict={verdict} roll={roll} only={only} choose={setOnly} />
        ))}
        <ApplyAll roll={roll} />
      </div>
      <div className={styles.tools}>
        <Alignment roll={roll} />
        <Button variant="outlined" onClick={() => setSorting(sorting === 'need' ? 'patch' : 'need')}>
          {sorting === 'need' ? 'Sort in patch order' : 'Sort by need'}
        </Button>
        <Forget />
        <Button variant="outlined" href="#/stage">
          Stage list
        </Button>
        <span className={styles.hint}>
          <kbd>↑</kbd> <kbd>↓</kbd> move · <kbd>Enter</kbd> applies the advice · <kbd>Space</kbd> marks as
          checked
        </span>
      </div>
      {state?.desk.follows === false && (
        <p className={styles.hint}>Advice changes the plan only. Send the plan to update the desk.</p>
      )}
      <div className={own.roll} role="list" {...hold}>
        {lines.map((line) => (
          <RollLine key={line.channel} line={line} alignment={roll.alignment} tolerance={roll.tolerance} />
        ))}
      </div>
      {roll.lines.length === 0 && (
        <StateNote kind="empty">
          No channel has a socket yet. <a href="#/patch">Patch sources to channels</a> first.
        </StateNote>
      )}
    </>
  );
}

interface TallyProps {
  verdict: Verdict;
  roll: RollCall;
  only: Verdict | null;
  choose: (verdict: Verdict | null) => void;
}

function Tally({ verdict, roll, only, choose }: TallyProps) {
  const many = roll.lines.filter((line) => line.verdict === verdict).length;
  if (many === 0 && only !== verdict) return null;
  return (
    <button
      type="button"
      className={cx(styles.pill, kindOf(verdict) && styles[kindOf(verdict)])}
      aria-pressed={only === verdict}
      onClick={() => choose(only === verdict ? null : verdict)}
    >
      {many} {verdict}
    </button>
  );
}

function ApplyAll({ roll }: { roll: RollCall }) {
  const ways = adviceOf(roll.lines);
  return (
    <Button
      variant="contained"
      className={styles.end}
      disabled={ways.length === 0}
      onClick={() => void lookAt('settings', ways[0]?.options, { ways })}
    >
      Apply all advice…
    </Button>
  );
}

function Alignment({ roll }: { roll: RollCall }) {
  return (
    <TextField
      select
      size="small"
      label="Target level for loud passages"
      className={own.alignment}
      value={roll.alignment}
      onChange={(event) => void set({ 'setup/alignment': Number(event.target.value) })}
    >
      {roll.levels.map(({ level, standard }) => (
        <MenuItem key={level} value={level}>
          {`${level}`.replace('-', '−')} dBFS, {standard}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Begins again: what was heard so far, and who ticked it. */
function Forget() {
  const forget = useCommand(async () => {
    await taken(api.POST('/api/line-check/forget', { body: {} }));
    await taken(api.POST('/api/ticks/clear', { body: { kind: 'heard' } }));
    await refresh('roll');
  });
  return (
    <Button variant="outlined" onClick={() => forget.mutate(undefined)}>
      Start over
    </Button>
  );
}
