import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { type RowProps, earlier } from './delivery';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

/** The parts of a recording, in order. */
export function PartsDialog({ items, rows, at, onChange, onClose }: RowProps & { onClose: () => void }) {
  const item = items[at];
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Parts of {item?.title}, in order</DialogTitle>
      <DialogContent>
        <table className={cx(styles.plain, own.delivery)}>
          <tbody>
            {item?.pieces.map((piece, part) => {
              const name = piece.map((source) => source.name).join(' with ');
              return (
                <tr key={name}>
                  <td className={styles.figure}>{part + 1}</td>
                  <td>{name}</td>
                  <td>
                    <Button
                      size="small"
                      disabled={part === 0}
                      aria-label={`Earlier: ${name}`}
                      onClick={() => onChange(earlier(rows, at, part))}
                    >
                      Earlier
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
