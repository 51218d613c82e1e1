import Button from '@mui/material/Button';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Show } from '../../api/client';
import { lookAt } from '../../api/preview';
import { type JournalEntry, journalPage, useJournalEntry } from '../../api/queries';
import { ChangeTable } from '../../app/dialogs/ChangeTable';
import { count, moment } from '../../look/format';
import { QueryState } from '../../app/status/QueryState';
import { StateNote } from '../../app/status/StateNote';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './handover.module.css';

const PAGE = 40;

/** Every edit with who and when, newest first; any version can be returned to. */
export function Journal({ show }: { show: Show }) {
  const pages = useInfiniteQuery({
    queryKey: ['journal', show.id],
    queryFn: ({ pageParam }) => journalPage(pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last: JournalEntry[]) => (last.length < PAGE ? undefined : last.at(-1)?.version),
  });
  const [open, setOpen] = useState<number | null>(null);
  const entry = (entry: JournalEntry) => (
    <li key={entry.version}>
      <span className={cx(styles.figure, styles.quiet)}>{entry.version}</span>
      <span>
        <strong>{entry.label}</strong>
        <br />
        <span className={styles.quiet}>
          {moment(entry.at)}, {entry.who} · {count(entry.count, 'setting')}
          {entry.count === 1 && entry.changes[0] && `: ${entry.changes[0].from} → ${entry.changes[0].to}`}
        </span>
        {open === entry.version && <Details version={entry.version} />}
      </span>
      <span className={styles.row}>
        {entry.count > 1 && (
          <Button size="small" onClick={() => setOpen(open === entry.version ? null : entry.version)}>
            {open === entry.version ? 'Less' : 'Show all'}
          </Button>
        )}
        <Button size="small" onClick={() => void lookAt('version', { version: entry.version - 1 })}>
          Restore an earlier version…
        </Button>
      </span>
    </li>
  );
  return (
    <QueryState of={pages} waiting="Reading the journal …">
      {({ pages: read }) =>
        read.flat().length === 0 ? (
          <StateNote kind="empty">No edits yet. Each edit is listed with its author and time.</StateNote>
        ) : (
          <>
            <ol className={own.journal}>{read.flat().map(entry)}</ol>
            {pages.hasNextPage && <Button onClick={() => void pages.fetchNextPage()}>Older edits</Button>}
          </>
        )
      }
    </QueryState>
  );
}

function Details({ version }: { version: number }) {
  return (
    <QueryState of={useJournalEntry(version)} waiting="Reading …">
      {(entry) => <ChangeTable changes={entry.changes} heads={['Before', 'After']} />}
    </QueryState>
  );
}
