import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import { callMe, whoAmI } from '../api/client';
import { useThemeName } from '../look/theme';
import type { ThemeName } from '../look/tokens';

/** Who works here (for the journal), and the theme. Both are kept in this browser. */
export function PersonMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [who, setWho] = useState(whoAmI());
  const { name, choose } = useThemeName();
  return (
    <>
      <IconButton aria-label="You and the theme" onClick={(event) => setAnchor(event.currentTarget)}>
        <svg
          viewBox="0 0 24 24"
          width="22"
          height="22"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.7"
          aria-hidden="true"
        >
          <path d="M12 4a4 4 0 1 0 .01 0M4 21c1-5 4-7 8-7s7 2 8 7" />
        </svg>
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        <div style={{ padding: 16, width: 270, display: 'grid', gap: 14 }}>
          <TextField
            label="Your name"
            helperText="Stands beside your edits"
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
            value={name}
            aria-label="Theme"
            onChange={(_, next: ThemeName | null) => next && choose(next)}
          >
            <ToggleButton value="daylight">Daylight</ToggleButton>
            <ToggleButton value="blackout">Blackout</ToggleButton>
          </ToggleButtonGroup>
        </div>
      </Popover>
    </>
  );
}
