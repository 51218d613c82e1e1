import Button from '@mui/material/Button';
import type { Outputs } from '../../../api/client';
import { set } from '../../../api/edits';
import styles from '../../../look/look.module.css';
import { added, hasLevel, KINDS, removed, type Wish, type WishKind } from './wishes';
import { FigureField } from '../room/FigureField';
import own from '../outputs.module.css';

interface FieldsProps {
  outputs: Outputs;
  source: string;
  listener: number;
}

/** Requirements of one source for one listener. */
export function WishFields({ outputs, source, listener }: FieldsProps) {
  const mine = outputs.wishes.filter(
    (one) => one.sources.includes(source) && one.listeners.includes(listener),
  );
  return (
    <section aria-label="Requirements" className={styles.apart}>
      <h3>Requirements</h3>
      {mine.map((wish) => (
        <WishLine key={wish.number} wish={wish} all={outputs.wishes} />
      ))}
      <Button
        size="small"
        onClick={() => void set(added(outputs.wishes, { sources: [source], listeners: [listener] }))}
      >
        Add requirement
      </Button>
    </section>
  );
}

/** Kind and level of a wish, and the way to be rid of it. */
export function WishLine({ wish, all }: { wish: Wish; all: Wish[] }) {
  const path = `wish/${wish.number}`;
  const many = wish.sources.length * wish.listeners.length;
  return (
    <div className={own.wish}>
      <select
        className={styles.find}
        aria-label={`Kind of requirement ${wish.number}`}
        value={wish.kind}
        onChange={(event) => void set({ [`${path}/kind`]: event.target.value as WishKind })}
      >
        {KINDS.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
      {hasLevel(wish.kind) && (
        <FigureField
          label={`Level of requirement ${wish.number}`}
          path={`${path}/db`}
          value={wish.db}
          unit="dB"
        />
      )}
      <Button
        size="small"
        aria-label={`Remove requirement ${wish.number}`}
        onClick={() =>
          void set(
            removed(
              'wish',
              all.map((one) => one.number),
              wish.number,
            ),
          )
        }
      >
        Remove
      </Button>
      {many > 1 && <small className={styles.hint}>of {many} pairs</small>}
    </div>
  );
}
