import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Take, TakeMarker } from '../../../api/client';
import { clock } from '../../../look/format';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';

/** Markers and sections: rename or delete them. */
export function MarkerTable({ take, onChange }: { take: Take; onChange: (markers: TakeMarker[]) => void }) {
  const { markers, rate } = take;
  if (markers.length === 0)
    return (
      <p className={styles.quiet}>No markers yet. Press M while capturing, or add them in the waveform.</p>
    );
  const put = (at: number, name: string) =>
    onChange(markers.map((one, index) => (index === at ? { ...one, name } : one)));
  return (
    <table className={cx(styles.plain, styles.stacked)}>
      <thead>
        <tr>
          <th>At</th>
          <th>Length</th>
          <th>Name</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {markers.map((marker, at) => (
          <tr key={`${marker.at} ${marker.name} ${at}`}>
            <td data-head="At" className={styles.figure}>
              {clock(marker.at / rate)}
            </td>
            <td data-head="Length" className={styles.figure}>
              {marker.frames > 0 ? clock(marker.frames / rate) : ''}
            </td>
            <td data-head="Name">
              <MarkerName marker={marker} onName={(name) => put(at, name)} />
            </td>
            <td>
              <Button
                size="small"
                aria-label={`Delete ${marker.name}`}
                onClick={() => onChange(markers.filter((_, index) => index !== at))}
              >
                Delete
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function MarkerName({ marker, onName }: { marker: TakeMarker; onName: (name: string) => void }) {
  const [name, setName] = useState(marker.name);
  const done = () => {
    if (name.trim() === '') setName(marker.name);
    else if (name !== marker.name) onName(name);
  };
  return (
    <input
      className={styles.find}
      aria-label={`Name of ${marker.name}`}
      value={name}
      maxLength={80}
      onChange={(event) => setName(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}
