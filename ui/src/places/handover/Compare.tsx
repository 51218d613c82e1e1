import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Show } from '../../api/client';
import { usePresets, useComparison, useDesk, useShows } from '../../api/queries';
import { ChangeTable } from '../../app/dialogs/ChangeTable';
import { count, moment } from '../../look/format';
import { QueryState } from '../../app/status/QueryState';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './handover.module.css';

interface Reference {
  id: string;
  name: string;
}

/** Everything that can be compared: the plan now and before, other shows, presets, the desk and its copies. */
function useReferences(show: Show): Reference[] {
  const shows = useShows().data ?? [];
  const presets = usePresets().data ?? [];
  const copies = useDesk(true).data?.copies ?? [];
  const versions = Array.from({ length: Math.min(30, show.version - 1) }, (_, i) => show.version - 1 - i);
  return [
    { id: 'now', name: 'the plan now' },
    { id: 'desk', name: 'the desk' },
    ...versions.map((version) => ({ id: `version/${version}`, name: `version ${version} of this show` })),
    ...shows
      .filter((one) => !one.open)
      .map((one) => ({ id: `show/${one.id}`, name: `show ${one.about.name}` })),
    ...presets.map((one) => ({ id: `preset/${one.id}`, name: `preset ${one.name}` })),
    ...copies.map((one) => ({ id: `copy/${one.id}`, name: `the desk ${one.label}, ${moment(one.at)}` })),
  ];
}

/** What differs between any two, in words. */
export function Compare({ show }: { show: Show }) {
  const references = useReferences(show);
  const [one, setOne] = useState('now');
  const [other, setOther] = useState('desk');
  const compared = useComparison(one, other);
  const changes = compared.data?.changes;
  const side = (label: string, value: string, choose: (id: string) => void) => (
    <TextField
      select
      label={label}
      size="small"
      className={own.reference}
      value={references.some((it) => it.id === value) ? value : 'now'}
      onChange={(event) => choose(event.target.value)}
      slotProps={{ select: { MenuProps: { slotProps: { paper: { style: { maxHeight: 360 } } } } } }}
    >
      {references.map((it) => (
        <MenuItem key={it.id} value={it.id}>
          {it.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <>
      <div className={cx(styles.tools, own.compare)}>
        {side('Compare', one, setOne)}
        {side('with', other, setOther)}
        {changes && (
          <span className={styles.hint}>
            {changes.length === 0
              ? 'No differences.'
              : `${count(changes.length, 'setting')} ${changes.length === 1 ? 'differs' : 'differ'}.`}
          </span>
        )}
      </div>
      <QueryState of={compared} waiting="Comparing …">
        {(both) =>
          both.changes.length > 0 && <ChangeTable changes={both.changes} heads={[both.one, both.other]} />
        }
      </QueryState>
    </>
  );
}
