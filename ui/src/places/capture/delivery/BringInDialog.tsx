import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRef, useState } from 'react';
import { api, type DeliveryPlan, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { refresh } from '../../../api/queries';
import { count } from '../../../look/format';
import { DeliveryTable } from './DeliveryTable';
import { DeliveryTools } from './DeliveryTools';
import { looked, mostParts, type Row, rowsOf, wanted } from './delivery';
import { cx } from '../../../look/cx';
import { ImportActions, ImportSteps, type Scan } from '../../../app/controls/ImportSteps';
import { LeftOut } from '../../../app/controls/LeftOut';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

/** Imports recordings: choose files, scan them, assign tracks, then import. */
export function BringInDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>Import recordings</DialogTitle>
      <ImportSteps
        words="WAV, AIFF, FLAC, MP3 and most other formats, under any names, or a ZIP file. Preview everything before importing."
        files="Files to import"
        folderLabel="Or a folder or ZIP file on the recording computer"
        placeholder="/media/disk/first-night"
        planOf={looked}
        onClose={onClose}
      >
        {(scan) => <Look {...scan} />}
      </ImportSteps>
    </Dialog>
  );
}

/** What would become of it; it can be arranged otherwise, and files left out. */
function Look({ look, plan: proposed, onBack, onDone }: Scan<DeliveryPlan>) {
  const [name, setName] = useState('Imported');
  const [part, setPart] = useState(0);
  const { plan, rows, arrange, arranging } = useArrangement(look, proposed);
  const parts = mostParts(rows);
  const items = wanted(rows);
  const warnings = plan.items.filter((_, at) => rows[at]?.taken).flatMap((item) => item.warnings);
  const bring = useCommand(async () => {
    await taken(
      api.POST('/api/deliveries/bring-in', {
        body: { look, name, items, ...(part > 0 ? { part } : {}) },
      }),
    );
    await refresh('exports');
    onDone();
  });
  return (
    <>
      <DialogContent>
        <div className={styles.stack}>
          <div className={styles.row}>
            <TextField
              label="Take name"
              size="small"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            {parts > 1 && (
              <TextField
                select
                size="small"
                label="Split recordings"
                className={own.takeName}
                value={part}
                onChange={(event) => setPart(Number(event.target.value))}
              >
                <MenuItem value={0}>join all parts</MenuItem>
                {Array.from({ length: parts }, (_, at) => (
                  <MenuItem key={at} value={at + 1}>
                    part {at + 1} only
                  </MenuItem>
                ))}
              </TextField>
            )}
          </div>
          <LeftOut problems={plan.problems} />
          {warnings.length > 0 && (
            <section className={cx(styles.note, styles.look)}>
              <h3>Check these</h3>
              <ul className={own.warnings}>
                {warnings.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            </section>
          )}
          <DeliveryTools
            plan={plan}
            rows={rows}
            onChange={arrange}
            onFirstPart={() => parts > 1 && setPart(1)}
          />
          <DeliveryTable plan={plan} rows={rows} onChange={arrange} />
        </div>
      </DialogContent>
      <ImportActions
        label={`Import ${count(items.length, 'recording')}`}
        disabled={items.length === 0 || name.trim() === '' || bring.isPending || arranging}
        onBack={onBack}
        onImport={() => bring.mutate(undefined)}
      />
    </>
  );
}

/** The recordings as somebody arranges them, and what the application says of each arrangement. */
function useArrangement(look: string, proposed: DeliveryPlan) {
  const [plan, setPlan] = useState(proposed);
  const [rows, setRows] = useState<Row[]>(() => rowsOf(proposed));
  const newest = useRef(0);
  const ask = useCommand(async (next: Row[]) => {
    const number = (newest.current += 1);
    const told = await taken(
      api.POST('/api/deliveries/looks/{id}/arrange', {
        params: { path: { id: look } },
        body: { items: next.map(({ pieces, track, offset }) => ({ pieces, track, offset })) },
      }),
    );
    if (number !== newest.current) return;
    setPlan(told);
    setRows(next);
  });
  const arrange = (next: Row[]) => {
    // What is taken is nobody's business but the screen's.
    if (next.length === rows.length && next.every((row, at) => same(row, rows[at]))) setRows(next);
    else ask.mutate(next);
  };
  return { plan, rows, arrange, arranging: ask.isPending };
}

const same = (one: Row, other?: Row) =>
  one.pieces === other?.pieces && one.track === other.track && one.offset === other.offset;
