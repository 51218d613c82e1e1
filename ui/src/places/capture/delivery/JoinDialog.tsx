import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import styles from '../../../look/look.module.css';
import { type RowProps, canStandAside, filesOf, joinedAside, joinedBehind } from './delivery';

/** Joins a recording with another, as its next part or as its right channel. */
export function JoinDialog({ items, rows, at, onChange, onClose }: RowProps & { onClose: () => void }) {
  const others = items.flatMap((item, index) => (index === at ? [] : [{ item, index }]));
  const [other, setOther] = useState(others[0]?.index ?? at);
  const [how, setHow] = useState<'behind' | 'aside'>('behind');
  const one = items[at];
  const chosen = items[other];
  const aside = one !== undefined && chosen !== undefined && canStandAside(one, chosen);
  const join = () => {
    onChange(how === 'aside' && aside ? joinedAside(rows, at, other) : joinedBehind(rows, at, other));
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Join {one?.title} with another</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <TextField
            select
            size="small"
            label="Recording"
            value={other}
            onChange={(event) => setOther(Number(event.target.value))}
          >
            {others.map(({ item, index }) => (
              <MenuItem key={index} value={index}>
                {filesOf(item)}
              </MenuItem>
            ))}
          </TextField>
          <RadioGroup
            value={how === 'aside' && !aside ? 'behind' : how}
            onChange={(_, to) => setHow(to as typeof how)}
          >
            <FormControlLabel
              value="behind"
              control={<Radio size="small" />}
              label="append as the next part"
            />
            <FormControlLabel
              value="aside"
              disabled={!aside}
              control={<Radio size="small" />}
              label={
                aside ? 'pair as right channel' : 'pair as right channel (both mono, same number of parts)'
              }
            />
          </RadioGroup>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={join}>
          Join
        </Button>
      </DialogActions>
    </Dialog>
  );
}
