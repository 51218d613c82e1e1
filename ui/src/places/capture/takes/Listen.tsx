import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type ReactNode, useState } from 'react';
import type { Take } from '../../../api/client';
import { clock } from '../../../look/format';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

interface ListenProps {
  take: Take;
  /** Number, or null for the quick mix. */
  track: number | null;
  onTrack: (track: number | null) => void;
  /** Frame where it begins. */
  from: number;
  /** What belongs to the chosen track. */
  children?: ReactNode;
}

/** One track or a quick mix of all, heard in this browser; nothing of it goes to the desk. */
export function Listen({ take, track, onTrack, from, children }: ListenProps) {
  /** The frame that was begun at; null while nothing is heard. */
  const [heard, hear] = useState<number | null>(null);
  const query = new URLSearchParams({
    from: `${heard ?? 0}`,
    ...(track === null ? {} : { track: `${track}` }),
  });
  return (
    <div className={styles.row}>
      <TextField
        select
        size="small"
        label="Track"
        className={own.listen}
        value={track ?? 'mix'}
        onChange={(event) => {
          hear(null);
          onTrack(event.target.value === 'mix' ? null : Number(event.target.value));
        }}
      >
        <MenuItem value="mix">all, as a quick mix</MenuItem>
        {take.tracks.map((one) => (
          <MenuItem key={one.number} value={one.number}>
            {one.number} {one.name}
          </MenuItem>
        ))}
      </TextField>
      {children}
      {heard !== null && (
        <audio
          key={heard}
          src={`/api/takes/${take.id}/listen?${query}`}
          controls
          autoPlay
          aria-label="Listen"
        />
      )}
      {heard !== from && (
        <Button variant="outlined" onClick={() => hear(from)}>
          {from > 0 ? `Listen from ${clock(from / take.rate)}` : 'Listen here'}
        </Button>
      )}
    </div>
  );
}
