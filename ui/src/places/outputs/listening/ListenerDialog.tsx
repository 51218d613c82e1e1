import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Outputs } from '../../../api/client';
import { set } from '../../../api/edits';
import styles from '../../../look/look.module.css';
import { removed } from './wishes';

type Listener = Outputs['listeners'][number];

const KINDS = [
  { id: 'person', name: 'a person' },
  { id: 'area', name: 'an area of the PA' },
  { id: 'broadcast', name: 'a broadcast' },
  { id: 'machine', name: 'a machine' },
] as const;

const BLANK: Listener = { number: 0, name: '', kind: 'person', hears: [], hears_right: [], x: null, y: null };

interface DialogProps {
  outputs: Outputs;
  /** Its number, or that of nobody yet. */
  listener: number | 'new' | null;
  onClose: () => void;
}

/** Who somebody is, and which outputs or personal mixes they hear. */
export function ListenerDialog({ outputs, listener, onClose }: DialogProps) {
  const known = outputs.listeners.find((one) => one.number === listener);
  const open = listener === 'new' || known !== undefined;
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth>
      {open && <Inside outputs={outputs} known={known ?? null} onClose={onClose} />}
    </Dialog>
  );
}

interface InsideProps {
  outputs: Outputs;
  known: Listener | null;
  onClose: () => void;
}

function Inside({ outputs, known, onClose }: InsideProps) {
  const [draft, setDraft] = useState<Listener>(known ?? BLANK);
  const put = (part: Partial<Listener>) => setDraft({ ...draft, ...part });
  const keys = outputs.listeners.map((one) => one.number);
  const key = known?.number ?? Math.max(0, ...keys) + 1;
  const keep = () => {
    const fields = (['name', 'kind', 'hears', 'hears_right'] as const).map((field) => [
      `listener/${key}/${field}`,
      draft[field],
    ]);
    const order = known ? {} : { 'listener/order': [...keys, key] };
    void set({ ...order, ...(Object.fromEntries(fields) as object) }).then((done) => done && onClose());
  };
  return (
    <>
      <DialogTitle>
        {known ? `Change ${known.name || `listener ${known.number}`}` : 'A new listener'}
      </DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <TextField
            label="Name"
            size="small"
            autoFocus
            value={draft.name}
            slotProps={{ htmlInput: { maxLength: 40 } }}
            onChange={(event) => put({ name: event.target.value })}
          />
          <TextField
            select
            label="Type"
            size="small"
            value={draft.kind}
            onChange={(event) => put({ kind: event.target.value as Listener['kind'] })}
          >
            {KINDS.map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            ))}
          </TextField>
          <Outlets
            label={draft.hears_right.length > 0 ? 'Left output' : 'Hears'}
            outputs={outputs}
            value={draft.hears}
            onChange={(hears) => put({ hears })}
          />
          <Outlets
            label="Right output (stereo)"
            outputs={outputs}
            value={draft.hears_right}
            onChange={(hears_right) => put({ hears_right })}
          />
        </div>
      </DialogContent>
      <DialogActions>
        {known && (
          <Button
            color="error"
            onClick={() =>
              void set(removed('listener', keys, known.number)).then((done) => done && onClose())
            }
          >
            Remove
          </Button>
        )}
        <span className={styles.room} />
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={draft.name.trim() === ''} onClick={keep}>
          Save
        </Button>
      </DialogActions>
    </>
  );
}

interface OutletsProps {
  label: string;
  outputs: Outputs;
  value: string[];
  onChange: (names: string[]) => void;
}

/** Outputs and personal mixes, with what they carry now. */
function Outlets({ label, outputs, value, onChange }: OutletsProps) {
  const names = outletNames(outputs);
  return (
    <Autocomplete
      multiple
      size="small"
      options={[...names.keys()]}
      getOptionLabel={(name) => names.get(name) ?? name}
      value={value}
      disableCloseOnSelect
      onChange={(_, next) => onChange(next)}
      renderInput={(params) => <TextField {...params} label={label} />}
    />
  );
}

export function outletNames(outputs: Outputs): Map<string, string> {
  const of = (kind: string, words: string, list: { number: number; label: string }[]) =>
    list.map(
      (one) =>
        [
          `desk/${kind}/${one.number}`,
          [`${words} ${one.number}`, one.label].filter(Boolean).join(', '),
        ] as const,
    );
  return new Map([
    ...of('output', 'Output', outputs.outputs),
    ...of('personal', 'Personal mix', outputs.personal),
  ]);
}
