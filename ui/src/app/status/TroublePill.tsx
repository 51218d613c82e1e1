import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { count } from '../../look/format';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

/** Parts that were given up, and what was put aside since they could not live with it. Everything else goes on. */
export function TroublePill({ troubles }: { troubles: string[] }) {
  const [open, setOpen] = useState(false);
  if (troubles.length === 0) return null;
  return (
    <>
      <button type="button" className={cx(styles.pill, styles.stop)} onClick={() => setOpen(true)}>
        {count(troubles.length, 'trouble')}
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} maxWidth="sm" fullWidth>
        <DialogTitle>Troubles</DialogTitle>
        <DialogContent>
          <p>Everything else keeps running. Failed parts are restarted automatically.</p>
          <ul>
            {troubles.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
          <p className={styles.quiet}>
            Unusable files were moved to aside/ in the home folder. Nothing was deleted.
          </p>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Close</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
