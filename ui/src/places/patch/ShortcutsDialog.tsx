import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';

const KEYS: [string, string][] = [
  ['↑ ↓ ← →', 'move between cells'],
  ['Shift with ↑ ↓', 'choose a range on a rail'],
  ['Page up, page down, Home, End', 'move further'],
  ['Enter, or type', 'set the cell'],
  ['Delete', 'empty the cell'],
  ['/', 'find a strand, Esc ends it'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
];

export function ShortcutsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <table style={{ borderSpacing: '0 8px' }}>
          <tbody>
            {KEYS.map(([keys, what]) => (
              <tr key={keys}>
                <td style={{ paddingRight: 24 }}>
                  <kbd>{keys}</kbd>
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
