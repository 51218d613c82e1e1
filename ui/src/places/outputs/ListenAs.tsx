import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Hearing } from '../../api/client';
import { useTakes } from '../../api/queries';
import { clock } from '../../look/format';
import styles from '../../look/look.module.css';

interface ListenProps {
  listener: Hearing['listeners'][number];
  sheet: number | null;
}

/** A take as this listener would hear it, by the mix as it was when it was begun; nothing of it goes to the desk. */
export function ListenAs({ listener, sheet }: ListenProps) {
  const takes = (useTakes().data ?? []).filter((one) => one.state !== 'capturing' && one.frames > 0);
  const [chosen, choose] = useState<string | null>(null);
  const [begun, begin] = useState(0);
  const take = takes.find((one) => one.id === chosen) ?? takes[0];
  if (!take) return null;
  const query = new URLSearchParams({
    listener: String(listener.number),
    ...(sheet === null ? {} : { sheet: String(sheet) }),
  });
  return (
    <div className={styles.row}>
      <select
        className={styles.find}
        aria-label="Take to listen to"
        value={take.id}
        onChange={(event) => {
          begin(0);
          choose(event.target.value);
        }}
      >
        {takes.map((one) => (
          <option key={one.id} value={one.id}>
            Take {one.number} {one.name}, {clock(one.frames / one.rate)}
          </option>
        ))}
      </select>
      <Button size="small" variant="outlined" onClick={() => begin(begun + 1)}>
        {begun > 0 ? 'Again, as it is mixed now' : `Listen as ${listener.title}`}
      </Button>
      {begun > 0 && (
        <audio
          key={begun}
          src={`/api/takes/${take.id}/listen?${query}`}
          controls
          autoPlay
          aria-label={`As ${listener.title} hears it`}
        />
      )}
    </div>
  );
}
