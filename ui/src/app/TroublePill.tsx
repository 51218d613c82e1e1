import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { useHealth } from '../api/queries';
import { count, moment } from '../look/format';

/** Parts that were given up, and what was put aside since they could not live with it. Everything else goes on. */
export function TroublePill({ troubles }: { troubles: string[] }) {
  const [open, setOpen] = useState(false);
  if (troubles.length === 0) return null;
  return (
    <>
      <button type="button" className="pill stop" onClick={() => setOpen(true)}>
        {count(troubles.length, 'part')} in trouble
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} maxWidth="sm" fullWidth>
        <DialogTitle>In trouble</DialogTitle>
        <DialogContent>
          <p className="quiet">Everything else goes on. What was given up is tried again by itself.</p>
          <ul>
            {troubles.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
          {open && <PutAside />}
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Close</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

function PutAside() {
  const aside = useHealth().data?.aside ?? [];
  if (aside.length === 0) return null;
  return (
    <section>
      <h3>Put aside, in the folder aside/ of the home folder</h3>
      <ul>
        {aside.map((one) => (
          <li key={`${one.at}${one.name}`}>
            <span className="strong">{one.name}</span> <span className="quiet figure">{moment(one.at)}</span>{' '}
            {one.why}
          </li>
        ))}
      </ul>
    </section>
  );
}
