import Button from '@mui/material/Button';
import { useState } from 'react';
import { api, type Hearing, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { tell } from '../../../api/notices';
import { refresh, useSheets } from '../../../api/queries';
import { NameDialog } from '../../../app/dialogs/NameDialog';
import { moment } from '../../../look/format';
import styles from '../../../look/look.module.css';

interface LevelsProps {
  hearing: Hearing;
  /** The level sheet by which all is computed; null: the desk as it is mixed now. */
  sheet: number | null;
  onChoose: (sheet: number | null) => void;
}

/** How the desk is mixed counts: as it is now, or as it was kept. */
export function Levels({ hearing, sheet, onChoose }: LevelsProps) {
  const sheets = useSheets().data ?? [];
  const [naming, name] = useState(false);
  const keep = useCommand((called: string) =>
    taken(api.POST('/api/level-sheets', { body: { name: called } })),
  );
  const forget = useCommand((id: number) =>
    taken(api.DELETE('/api/level-sheets/{sheet}', { params: { path: { sheet: id } } })),
  );
  const { from } = hearing.levels;
  return (
    <div className={styles.row}>
      <label className={styles.hint}>
        Levels{' '}
        <select
          className={styles.find}
          value={sheet ?? ''}
          onChange={(event) => onChoose(event.target.value === '' ? null : Number(event.target.value))}
        >
          <option value="">
            {from === null && sheet === null ? 'unknown: no desk' : 'current desk levels'}
          </option>
          {sheets.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}, {moment(one.at)}
            </option>
          ))}
        </select>
      </label>
      {sheet === null && from === 'sheet' && (
        <span className={styles.inLook}>Desk offline: using snapshot “{hearing.levels.name}”</span>
      )}
      {sheet === null ? (
        <Button size="small" disabled={from !== 'desk'} onClick={() => name(true)}>
          Save snapshot…
        </Button>
      ) : (
        <Button
          size="small"
          onClick={() => {
            onChoose(null);
            void forget.mutateAsync(sheet).then(() => refresh('level-sheets', 'hearing'));
          }}
        >
          Delete this snapshot
        </Button>
      )}
      <NameDialog
        open={naming}
        title="Save current desk levels"
        label="Snapshot name"
        button="Save"
        onClose={() => name(false)}
        onName={(called) => {
          name(false);
          void keep.mutateAsync(called).then(() => {
            tell({ kind: 'info', text: `Snapshot “${called}” saved.` });
            return refresh('level-sheets');
          });
        }}
      />
    </div>
  );
}
