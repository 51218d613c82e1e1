import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import { Words } from '../../../app/help/Words';
import own from '../sheet/sheet.module.css';

const KEYS: [string, string][] = [
  ['↑ ↓ ← →', 'move between cells'],
  ['Shift with ↑ ↓', 'choose a range on a rail'],
  ['Page up, page down, Home, End', 'move further'],
  ['Enter, or type', 'set the cell, or the whole range'],
  ['Delete', 'empty the cell or range'],
  ['F2', 'rename in place; Enter moves to the next'],
  ['F4', 'dye it'],
  ['F8', 'join two channels to a pair, or split it'],
  ['F9', 'lock or unlock a channel for auto-patch'],
  ['Space', 'arm or disarm a track'],
  ['Ctrl V', 'names from the clipboard, one per line, from here down'],
  ['/', 'find a strand: type, Enter goes there, Esc ends it'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['?', 'these keys, and the glossary'],
];

function Keys({ onClose }: { onClose: () => void }) {
  return (
    <>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent tabIndex={0}>
        <table className={own.keys}>
          <tbody>
            {KEYS.map(([keys, what]) => (
              <tr key={keys}>
                <td>
                  <kbd>{keys}</kbd>
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <h3>Glossary</h3>
        <Words />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}

export const ShortcutsDialog = dialogOf(Keys);
