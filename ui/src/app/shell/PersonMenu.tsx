import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { memo, useState } from 'react';
import { callMe, whoAmI } from '../../api/client';
import { useScheme } from '../../look/theme';
import type { Scheme } from '../../look/tokens';
import { cx } from '../../look/cx';
import { LineIcon } from '../controls/LineIcon';
import styles from '../../look/look.module.css';
import own from './shell.module.css';

/** Who works here (for the journal), and the theme. Both are kept in this browser. */
export const PersonMenu = memo(function PersonMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [who, setWho] = useState(whoAmI());
  const { scheme, choose } = useScheme();
  return (
    <>
      <IconButton aria-label="You and the theme" onClick={(event) => setAnchor(event.currentTarget)}>
        <LineIcon path="M12 4a4 4 0 1 0 .01 0M4 21c1-5 4-7 8-7s7 2 8 7" />
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'You and the theme' } }}
      >
        <div className={cx(styles.stack, own.person)}>
          <TextField
            label="Your name"
            helperText="Shown with your edits"
            size="small"
            value={who}
            onChange={(event) => {
              setWho(event.target.value);
              callMe(event.target.value);
            }}
          />
          <ToggleButtonGroup
            exclusive
            fullWidth
            size="small"
            value={scheme}
            aria-label="Theme"
            onChange={(_, next: Scheme | null) => next && choose(next)}
          >
            <ToggleButton value="light">Daylight</ToggleButton>
            <ToggleButton value="dark">Blackout</ToggleButton>
          </ToggleButtonGroup>
        </div>
      </Popover>
    </>
  );
});
