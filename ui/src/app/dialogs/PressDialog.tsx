import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { type Pressing, setLevels, stopPressing, usePressing } from '../../api/press';
import { cx } from '../../look/cx';
import { HeardChanges } from './HeardChanges';
import { Notes } from './Notes';
import styles from '../../look/look.module.css';

/** Preview of levels to set on the desk: old and new values, and for whom that is louder or softer. */
export function PressDialog() {
  const pressing = usePressing();
  return (
    <Dialog open={pressing !== null} onClose={stopPressing} maxWidth="sm" fullWidth>
      {pressing && <Inside pressing={pressing} />}
    </Dialog>
  );
}

function Inside({ pressing: { label, values, preview } }: { pressing: Pressing }) {
  return (
    <>
      <DialogTitle>{label}</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <p>Changes the mix on the desk. The plan is unaffected.</p>
          <Notes title="New findings" kind="look" lines={preview.findings_new} />
          <Notes title="Resolved findings" kind="well" lines={preview.findings_gone} />
          <HeardChanges changes={preview.heard} />
          <table className={styles.plain}>
            <thead>
              <tr>
                <th>At the desk</th>
                <th>Now</th>
                <th>Then</th>
              </tr>
            </thead>
            <tbody>
              {preview.values.map((one) => (
                <tr key={one.name}>
                  <td>{one.words}</td>
                  <td className={styles.figure}>{one.from}</td>
                  <td className={cx(styles.figure, styles.strong)}>{one.to}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={stopPressing}>Cancel</Button>
        <Button
          variant="contained"
          autoFocus
          onClick={() => void setLevels(values).then((done) => done && stopPressing())}
        >
          Apply to desk
        </Button>
      </DialogActions>
    </>
  );
}
