import Button from '@mui/material/Button';
import { useState } from 'react';
import { api, type Take, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { refreshTakes, useBin, useExports, useTakes } from '../../../api/queries';
import { clock, count, size } from '../../../look/format';
import { JobList } from '../../../app/status/JobList';
import { BringInDialog } from '../delivery/BringInDialog';
import { TakeDialog } from './TakeDialog';
import { clipsOf, milliseconds, STATES } from './takes';
import { QueryState } from '../../../app/status/QueryState';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

export function TakeList() {
  const takes = useTakes();
  const [open, setOpen] = useState<string | null>(null);
  const [bringing, setBringing] = useState(false);
  const shown = takes.data?.find((take) => take.id === open) ?? null;
  return (
    <aside className={styles.side} aria-label="Takes">
      <h2>Takes</h2>
      <QueryState of={takes} waiting="Reading the takes …">
        {(list) =>
          list.length === 0 ? (
            <StateNote kind="empty">No takes yet. Press Capture, let the band play, and hold Stop.</StateNote>
          ) : (
            <ul className={own.takes}>
              {list.map((take) => (
                <TakeLine key={take.id} take={take} onOpen={() => setOpen(take.id)} />
              ))}
            </ul>
          )
        }
      </QueryState>
      <Button size="small" onClick={() => setBringing(true)}>
        Import recordings…
      </Button>
      <Coming />
      <Bin />
      {bringing && <BringInDialog onClose={() => setBringing(false)} />}
      {shown && <TakeDialog take={shown} onClose={() => setOpen(null)} />}
    </aside>
  );
}

function TakeLine({ take, onOpen }: { take: Take; onOpen: () => void }) {
  const lost = take.missing.reduce((sum, one) => sum + one.frames, 0);
  const clips = clipsOf(take);
  return (
    <li data-dye={take.colour ?? undefined}>
      <button type="button" className={own.takeLine} onClick={onOpen}>
        <span className={styles.strong}>
          {take.number} {take.name}
        </span>{' '}
        {STATES[take.state] && <span className={styles.quiet}>{STATES[take.state]}</span>}
        {take.state !== 'unreadable' && (
          <small className={styles.figure}>
            {clock(take.frames / take.rate)} · {count(take.tracks.length, 'track')} · {size(take.bytes)}
          </small>
        )}
        {lost > 0 && (
          <small className={cx(styles.inLook, styles.figure)}>
            gaps at {count(take.missing.length, 'place')}, {milliseconds(lost, take.rate)}
          </small>
        )}
        {clips > 0 && (
          <small className={cx(styles.inLook, styles.figure)}>clipped on {count(clips, 'track')}</small>
        )}
        {take.markers.length > 0 && (
          <small className={styles.figure}>{count(take.markers.length, 'marker')}</small>
        )}
        {take.note && <small className={styles.inLook}>{take.note}</small>}
        {take.notes && <small>{take.notes}</small>}
      </button>
    </li>
  );
}

/** Deliveries that are on their way to being takes, those that failed, and jobs that cannot be read. */
function Coming() {
  const coming =
    useExports().data?.filter(
      (job) =>
        (job.kind === 'bring-in' && !['done', 'cancelled'].includes(job.state)) || job.state === 'unreadable',
    ) ?? [];
  return <JobList jobs={coming} />;
}

/** Takes that were thrown away, until the bin is emptied. */
function Bin() {
  const bin = useBin().data ?? [];
  const [sure, setSure] = useState(false);
  const restore = useCommand(async (take: number) => {
    await taken(api.POST('/api/bin/restore', { body: { take } }));
    refreshTakes();
  });
  const empty = useCommand(async () => {
    await taken(api.POST('/api/bin/empty', { body: {} }));
    setSure(false);
    refreshTakes();
  });
  if (bin.length === 0) return null;
  return (
    <section className={own.bin} aria-label="Bin">
      <h2>Bin</h2>
      <ul className={own.takes}>
        {bin.map((take) => (
          <li key={take.number}>
            {take.number} {take.name}{' '}
            <small className={styles.figure}>
              {clock(take.frames / take.rate)} · {size(take.bytes)}
            </small>
            <Button size="small" onClick={() => restore.mutate(take.number)}>
              Restore
            </Button>
          </li>
        ))}
      </ul>
      <Button
        size="small"
        color={sure ? 'error' : 'primary'}
        onBlur={() => setSure(false)}
        onClick={() => (sure ? empty.mutate(undefined) : setSure(true))}
      >
        {sure ? `Delete ${count(bin.length, 'take')} for good` : 'Empty the bin…'}
      </Button>
    </section>
  );
}
