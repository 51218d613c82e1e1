import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import type { Hearing } from '../../../api/client';
import { useTakes } from '../../../api/queries';
import { clock } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { Ears, type Part } from './ears';

interface ListenProps {
  listener: Hearing['listeners'][number];
  sheet: number | null;
}

const NOW = 'now';

/** Plays the desk as this listener hears it now, or a take as they would. Nothing of it goes to the desk. */
export function ListenAs({ listener, sheet }: ListenProps) {
  const takes = (useTakes().data ?? []).filter((one) => one.state !== 'capturing' && one.frames > 0);
  const [chosen, choose] = useState(NOW);
  const [begun, begin] = useState(0);
  const take = takes.find((one) => one.id === chosen);
  return (
    <div className={styles.row}>
      <select
        className={styles.find}
        aria-label="What to listen to"
        value={take ? chosen : NOW}
        onChange={(event) => {
          begin(0);
          choose(event.target.value);
        }}
      >
        <option value={NOW}>live input</option>
        {takes.map((one) => (
          <option key={one.id} value={one.id}>
            Take {one.number} {one.name}, {clock(one.frames / one.rate)}
          </option>
        ))}
      </select>
      {begun === 0 || take ? (
        <Button size="small" variant="outlined" onClick={() => begin(begun + 1)}>
          {begun > 0 ? 'Restart with current mix' : `Listen as ${listener.title}`}
        </Button>
      ) : (
        <Button size="small" variant="outlined" onClick={() => begin(0)}>
          Stop listening
        </Button>
      )}
      {begun > 0 && take && (
        <audio
          key={begun}
          src={`/api/takes/${take.id}/listen?${query(listener.number, sheet)}`}
          controls
          autoPlay
          aria-label={`As ${listener.title} hears it`}
        />
      )}
      {begun > 0 && !take && <Live listener={listener.number} />}
    </div>
  );
}

const query = (listener: number, sheet: number | null) =>
  new URLSearchParams({
    listener: String(listener),
    ...(sheet === null ? {} : { sheet: String(sheet) }),
  }).toString();

const WORDS: Record<Part['by'], string> = {
  outputs: 'the desk’s own sound, by card sends that carry the same',
  channels: 'computed from the channels’ card sends, without the desk’s processing',
};

function Live({ listener }: { listener: number }) {
  const [by, tell] = useState<Part['by'] | null>(null);
  const [trouble, complain] = useState<string | null>(null);
  useEffect(() => {
    const ears = new Ears(listener, (now, wrong) => {
      tell(now);
      complain(wrong);
    });
    return () => ears.stop();
  }, [listener]);
  if (trouble) return <span className={styles.inLook}>! {trouble}</span>;
  return <span className={styles.hint}>{by ? `Heard: ${WORDS[by]}` : 'Listening …'}</span>;
}
