import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type DeliveryPlan, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { refresh } from '../../api/queries';
import { count } from '../../look/format';
import { DeliveryTable } from './DeliveryTable';
import { type Choice, choices, looked, mostParts, wanted } from './delivery';
import { cx } from '../../look/cx';
import { SourcePick } from '../../app/SourcePick';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

/** Brings in what others delivered: chosen, looked at, put on its tracks, and only then kept. */
export function BringInDialog({ onClose }: { onClose: () => void }) {
  const [seen, setSeen] = useState<{ look: string; plan: DeliveryPlan } | null>(null);
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>Bring in a delivery</DialogTitle>
      {seen ? (
        <Look {...seen} onBack={() => setSeen(null)} onDone={onClose} />
      ) : (
        <SourcePick
          words="WAV, AIFF, FLAC, MP3 and most others, named as people name them, or a ZIP file of them. Everything is shown before it is kept."
          files="Files to bring in"
          folderLabel="Or a folder or ZIP file on the recording computer"
          placeholder="/media/disk/first-night"
          onLook={async (look, onSeen) => setSeen({ look, plan: await looked(look, onSeen) })}
          onClose={onClose}
        />
      )}
    </Dialog>
  );
}

interface LookProps {
  look: string;
  plan: DeliveryPlan;
  onBack: () => void;
  onDone: () => void;
}

/** What would become of it; tracks can be chosen otherwise, and files left out. */
function Look({ look, plan, onBack, onDone }: LookProps) {
  const [name, setName] = useState('Delivered');
  const [part, setPart] = useState(0);
  const [chosen, setChosen] = useState<Choice[]>(() => choices(plan));
  const parts = mostParts(plan);
  const items = wanted(plan, chosen);
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
              label="Name of the take"
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
                <MenuItem value={0}>all parts, one behind the other</MenuItem>
                {Array.from({ length: parts }, (_, at) => (
                  <MenuItem key={at} value={at + 1}>
                    part {at + 1} only
                  </MenuItem>
                ))}
              </TextField>
            )}
          </div>
          {plan.problems.length > 0 && (
            <section className={cx(styles.note, styles.look)}>
              <h3>Left out</h3>
              <ul>
                {plan.problems.map((one) => (
                  <li key={one.where}>
                    {one.where} {one.message}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <DeliveryTable plan={plan} chosen={chosen} onChoose={setChosen} />
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onBack}>Back</Button>
        <Button
          variant="contained"
          disabled={items.length === 0 || name.trim() === '' || bring.isPending}
          onClick={() => bring.mutate(undefined)}
        >
          Bring in {count(items.length, 'recording')}
        </Button>
      </DialogActions>
    </>
  );
}
