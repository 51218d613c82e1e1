import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { type FormEvent, useState } from 'react';
import styles from '../../look/look.module.css';

interface NameProps {
  open: boolean;
  title: string;
  label: string;
  button: string;
  onClose: () => void;
  onName: (name: string) => void;
}

/** Asks for a name. */
export function NameDialog({ open, onClose, ...rest }: NameProps) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="xs" fullWidth>
      <Inside {...rest} onClose={onClose} />
    </Dialog>
  );
}

function Inside({ title, label, button, onClose, onName }: Omit<NameProps, 'open'>) {
  const [name, setName] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onName(name.trim());
  };
  return (
    <form onSubmit={submit}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent className={styles.stack}>
        <TextField
          label={label}
          size="small"
          autoFocus
          value={name}
          slotProps={{ htmlInput: { maxLength: 80 } }}
          onChange={(event) => setName(event.target.value)}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" variant="contained" disabled={name.trim() === ''}>
          {button}
        </Button>
      </DialogActions>
    </form>
  );
}
