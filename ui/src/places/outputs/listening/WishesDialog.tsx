import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import type { Hearing, Outputs } from '../../../api/client';
import { set } from '../../../api/edits';
import { StateNote } from '../../../app/status/StateNote';
import styles from '../../../look/look.module.css';
import { added, type Wish } from './wishes';
import { WishLine } from './WishFields';
import own from '../outputs.module.css';

interface WishesProps {
  open: boolean;
  outputs: Outputs;
  hearing: Hearing;
  onClose: () => void;
}

/** All requirements, each for one or several sources and listeners. */
export function WishesDialog({ open, outputs, hearing, onClose }: WishesProps) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Requirements</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          {outputs.wishes.length === 0 && (
            <StateNote kind="empty">No requirements yet. Set who must hear what, and who must not.</StateNote>
          )}
          {outputs.wishes.map((wish) => (
            <WishRow key={wish.number} wish={wish} outputs={outputs} hearing={hearing} />
          ))}
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => void set(added(outputs.wishes, {}))}>Add requirement</Button>
        <span className={styles.room} />
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function WishRow({ wish, outputs, hearing }: { wish: Wish; outputs: Outputs; hearing: Hearing }) {
  const path = `wish/${wish.number}`;
  const results = hearing.wishes.filter((one) => one.number === wish.number);
  const broken = results.filter((one) => !one.kept);
  return (
    <section aria-label={`Requirement ${wish.number}`} className={own.wishRow}>
      <Several
        label="Sources"
        names={new Map(hearing.sources.map((one) => [one.id, one.title]))}
        value={wish.sources}
        onChange={(sources) => void set({ [`${path}/sources`]: sources })}
      />
      <Several
        label="Listeners"
        names={new Map(hearing.listeners.map((one) => [String(one.number), one.title]))}
        value={wish.listeners.map(String)}
        onChange={(numbers) => void set({ [`${path}/listeners`]: numbers.map(Number) })}
      />
      <WishLine wish={wish} all={outputs.wishes} />
      {results.length > 0 && (
        <small className={broken.length > 0 ? styles.inStop : styles.inWell}>
          {broken.length > 0
            ? `✕ not met: ${broken.map((one) => `${one.source_title} → ${one.listener_title}`).join(', ')}`
            : '✓ met'}
        </small>
      )}
    </section>
  );
}

interface SeveralProps {
  label: string;
  names: Map<string, string>;
  value: string[];
  onChange: (ids: string[]) => void;
}

function Several({ label, names, value, onChange }: SeveralProps) {
  return (
    <Autocomplete
      multiple
      size="small"
      options={[...names.keys()]}
      getOptionLabel={(id) => names.get(id) ?? `${id}, gone`}
      value={value}
      disableCloseOnSelect
      onChange={(_, next) => onChange(next)}
      renderInput={(params) => <TextField {...params} label={label} />}
    />
  );
}
