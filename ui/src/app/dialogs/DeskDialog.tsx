import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { mindingTake } from '../../api/ontake';
import { useState } from 'react';
import { api, type Schemas, taken } from '../../api/client';
import { readDesk, set, useCommand } from '../../api/edits';
import { tell } from '../../api/notices';
import { refresh, useCopy, useDesk, useShow } from '../../api/queries';
import { count, moment } from '../../look/format';
import { ChangeTable } from './ChangeTable';
import { QueryState } from '../status/QueryState';
import { cx } from '../../look/cx';
import { dialogOf } from './dialogOf';
import styles from '../../look/look.module.css';

const tellProblems = (problems: string[], done: string) => {
  const [first, ...more] = problems;
  tell(
    first
      ? { kind: 'error', text: more.length > 0 ? `${first} (and ${more.length} more)` : first }
      : { kind: 'info', text: done },
  );
};

function Inside({ onClose }: { onClose: () => void }) {
  const desk = useDesk(true);
  const follows = useShow().data?.setup.desk_follows ?? 'at once';
  const [left, leave] = useState<string[]>([]);
  const [copy, openCopy] = useState<number | null>(null);
  const state = desk.data;
  const list = state?.differences ?? [];
  const chosen = list.filter((one) => !left.includes(one.path)).map((one) => one.path);
  const paths = chosen.length === list.length ? null : chosen;
  const send = useCommand(async () => {
    const sent = await mindingTake((on_take) =>
      taken(api.POST('/api/desk/send', { body: { paths, on_take } })),
    );
    if (!sent) return;
    tellProblems(sent.problems, 'Desk updated and verified. Its previous state was saved as a copy.');
    await refresh('desk');
  });
  const standIn = useCommand(async () => {
    await taken(api.POST('/api/desk/stand-in', { body: {} }));
    tell({
      kind: 'info',
      text: 'The simulated desk is restarting with the planned rig. Send the plan when it is back.',
    });
  });
  if (copy !== null) return <CopyView copy={copy} onBack={() => openCopy(null)} />;
  return (
    <>
      <DialogTitle>Plan and desk</DialogTitle>
      <DialogContent>
        <QueryState of={desk} waiting="Reading the desk …">
          {() => null}
        </QueryState>
        {state?.away && <p className={cx(styles.note, styles.stop)}>{state.away}</p>}
        {state?.rig.map((line) => (
          <p key={line} className={cx(styles.note, styles.look)}>
            {line}
          </p>
        ))}
        {state && !state.away && list.length === 0 && <p>Desk in sync: all settings match the plan.</p>}
        {list.length > 1 && (
          <div className={styles.row}>
            <span className={styles.grow}>
              {chosen.length} of {count(list.length, 'setting')} ticked
            </span>
            <Button size="small" onClick={() => leave([])}>
              Select all
            </Button>
            <Button size="small" onClick={() => leave(list.map((one) => one.path))}>
              Select none
            </Button>
          </div>
        )}
        {list.length > 0 && (
          <ChangeTable
            changes={list.map((one) => ({ ...one, from: one.plan, to: one.desk }))}
            heads={['Plan', 'Desk']}
            lead={(one) => (
              <Checkbox
                size="small"
                checked={!left.includes(one.path)}
                slotProps={{ input: { 'aria-label': `Take ${one.what} ${one.field}` } }}
                onChange={(_, on) =>
                  leave(on ? left.filter((path) => path !== one.path) : [...left, one.path])
                }
              />
            )}
          />
        )}
        <label className={cx(styles.row, styles.apart)}>
          <Checkbox
            size="small"
            checked={follows === 'at once'}
            onChange={(_, on) => void set({ 'setup/desk_follows': on ? 'at once' : 'when sent' })}
          />
          Send each edit to the desk immediately. If off, edits wait for Send; flips are always sent
          immediately.
        </label>
        {state && <Copies copies={state.copies} onOpen={openCopy} />}
      </DialogContent>
      <DialogActions>
        {(state?.away || (state?.rig.length ?? 0) > 0) && state?.up && (
          <Button disabled={standIn.isPending} onClick={() => standIn.mutate(undefined)}>
            Load this rig into the simulated desk
          </Button>
        )}
        {list.length > 0 && (
          <>
            <Button
              disabled={chosen.length === 0}
              onClick={() => void readDesk(paths).then(() => refresh('desk'))}
            >
              {chosen.length > 0 ? `Read ${count(chosen.length, 'setting')}` : 'Read'} from the desk into the
              plan
            </Button>
            <Button
              variant="contained"
              disabled={chosen.length === 0 || send.isPending}
              onClick={() => send.mutate(undefined)}
            >
              {chosen.length > 0 ? `Send ${count(chosen.length, 'setting')}` : 'Send'} to the desk
            </Button>
          </>
        )}
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}

function Copies({ copies, onOpen }: { copies: Schemas['DeskCopy'][]; onOpen: (id: number) => void }) {
  if (copies.length === 0) return null;
  return (
    <section className={styles.apart}>
      <h3>Copies of the desk</h3>
      <ul className={styles.list}>
        {copies.slice(0, 5).map((copy) => (
          <li key={copy.id}>
            <span>
              {moment(copy.at)}, {copy.label}, by {copy.who}
            </span>
            <Button size="small" onClick={() => onOpen(copy.id)}>
              Restore…
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Preview of restoring a copy to the desk. */
function CopyView({ copy, onBack }: { copy: number; onBack: () => void }) {
  const asked = useCopy(copy);
  const changes = asked.data;
  const restore = useCommand(async () => {
    const restored = await mindingTake((on_take) =>
      taken(api.POST('/api/desk/copies/{copy}/restore', { params: { path: { copy } }, body: { on_take } })),
    );
    if (!restored) return;
    tellProblems(restored.problems, 'Desk restored from the copy.');
    await refresh('desk');
    onBack();
  });
  return (
    <>
      <DialogTitle>Restore copy {copy} of the desk</DialogTitle>
      <DialogContent>
        <QueryState of={asked} waiting="Comparing with the desk …">
          {() => null}
        </QueryState>
        {changes?.length === 0 && <p>No differences: the desk matches this copy.</p>}
        {changes && changes.length > 0 && (
          <ChangeTable
            changes={changes.map((one) => ({ ...one, from: one.desk, to: one.plan }))}
            heads={['Desk now', 'Copy']}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onBack}>Back</Button>
        <Button
          variant="contained"
          disabled={!changes || changes.length === 0 || restore.isPending}
          onClick={() => restore.mutate(undefined)}
        >
          Apply {count(changes?.length ?? 0, 'setting')} to the desk
        </Button>
      </DialogActions>
    </>
  );
}

/** Where plan and desk differ, both ways into step, and copies of what was overwritten. */
export const DeskDialog = dialogOf(Inside, { maxWidth: 'md', fullWidth: true });
