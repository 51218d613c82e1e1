import Button from '@mui/material/Button';
import { type ReactNode, useState } from 'react';
import type { Hearing, Outputs } from '../../../api/client';
import { lookAt } from '../../../api/preview';
import { Away } from '../../../app/status/Away';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import { level } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { type Chosen, bar, type Heard, heardBy, stateOf } from './heard';
import { ListenAs } from './ListenAs';
import { ListenerDialog } from './ListenerDialog';
import { WayPanel } from './WayPanel';
import { WishesDialog } from './WishesDialog';
import own from '../outputs.module.css';

interface ListeningProps {
  head: ReactNode;
  outputs: Outputs;
  hearing: Hearing;
  sheet: number | null;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}

/** Listeners, what the selected one hears, and the path. */
export function Listening({ head, outputs, hearing, sheet, chosen, onChoose }: ListeningProps) {
  const [changing, change] = useState<number | 'new' | null>(null);
  const [wishing, openWishes] = useState(false);
  const listener =
    hearing.listeners.find((one) => one.number === chosen.listener) ?? hearing.listeners[0] ?? null;
  const heard = listener ? heardBy(hearing, listener.number) : [];
  const source = heard.find((one) => one.source.id === chosen.source) ?? heard[0] ?? null;
  return (
    <>
      <main>
        <Away of={['desk']} />
        {head}
        {listener === null ? (
          <StateNote kind="empty">
            No listeners yet. Suggest them from the rig and bus names.{' '}
            <Button variant="contained" onClick={() => void lookAt('listeners')}>
              Suggest listeners…
            </Button>{' '}
            <Button onClick={() => change('new')}>Add listener</Button>
          </StateNote>
        ) : (
          <div className={own.listening}>
            <section aria-label="Who listens">
              <div className={own.head}>
                <h2>Who listens</h2>
              </div>
              <ul className={own.cards}>
                {hearing.listeners.map((one) => (
                  <Card
                    key={one.number}
                    listener={one}
                    hearing={hearing}
                    outputs={outputs}
                    on={one === listener}
                    onChoose={() => onChoose({ listener: one.number, source: chosen.source })}
                  />
                ))}
              </ul>
              <div className={styles.row}>
                <Button size="small" onClick={() => change('new')}>
                  Add listener
                </Button>
                <Button size="small" onClick={() => void lookAt('listeners')}>
                  Suggest…
                </Button>
              </div>
            </section>
            <section aria-label={`What ${listener.title} hears`}>
              <div className={own.head}>
                <h2>What {listener.title} hears</h2>
                <Button
                  size="small"
                  className={styles.end}
                  aria-label={`Change ${listener.title}`}
                  onClick={() => change(listener.number)}
                >
                  Change…
                </Button>
                <Button size="small" onClick={() => openWishes(true)}>
                  Requirements…
                </Button>
              </div>
              <ListenAs key={listener.number} listener={listener} sheet={sheet} />
              <p className={styles.hint}>in dB relative to the source after its preamp, all paths summed</p>
              <ul className={own.sources}>
                {heard.map((one) => (
                  <SourceRow
                    key={one.source.id}
                    heard={one}
                    ears={listener.outlets.length}
                    on={one === source}
                    onChoose={() => onChoose({ listener: listener.number, source: one.source.id })}
                  />
                ))}
              </ul>
            </section>
          </div>
        )}
      </main>
      {listener && source && <WayPanel outputs={outputs} heard={source} listener={listener} sheet={sheet} />}
      <ListenerDialog outputs={outputs} listener={changing} onClose={() => change(null)} />
      <WishesDialog open={wishing} outputs={outputs} hearing={hearing} onClose={() => openWishes(false)} />
    </>
  );
}

interface CardProps {
  listener: Hearing['listeners'][number];
  hearing: Hearing;
  outputs: Outputs;
  on: boolean;
  onChoose: () => void;
}

const STATES = { well: styles.inWell, look: styles.inLook, stop: styles.inStop };

function Card({ listener, hearing, outputs, on, onChoose }: CardProps) {
  const state = stateOf(hearing, outputs, listener.number);
  const heard = heardBy(hearing, listener.number).filter((one) => one.db !== null).length;
  const ears = listener.outlets.map((names) => names.join(' + ')).join(' / ');
  return (
    <li>
      <button type="button" className={cx(own.card, on && own.on)} aria-pressed={on} onClick={onChoose}>
        <span className={styles.strong}>{listener.title}</span>
        <span className={styles.figure}>{heard} heard</span>
        <small className={styles.quiet}>{ears || 'no output yet'}</small>
        <small className={cx(own.state, STATES[state.kind])}>{state.text}</small>
      </button>
    </li>
  );
}

interface RowProps {
  heard: Heard;
  /** One way to each is the least. */
  ears: number;
  on: boolean;
  onChoose: () => void;
}

function SourceRow({ heard, ears, on, onChoose }: RowProps) {
  const { source, db, ways, wishes } = heard;
  return (
    <li>
      <button type="button" className={cx(own.source, on && own.on)} aria-pressed={on} onClick={onChoose}>
        <span className={own.dye} data-dye={source.dye} />
        <span>{source.title}</span>
        <span className={own.bar} data-dye={source.dye} aria-hidden="true">
          <svg viewBox="0 0 100 8" preserveAspectRatio="none">
            <rect width={bar(db)} height="8" />
          </svg>
        </span>
        <span className={own.marks}>
          {wishes.map((one) => (
            <span key={one.number} className={cx(own.mark, one.kept ? own.kept : own.broken)}>
              {one.kept ? '✓' : '✕'} {one.words}
            </span>
          ))}
          {wishes.length === 0 && ways > ears && db !== null && (
            <span className={styles.hint}>{ways} paths</span>
          )}
        </span>
        <span className={cx(styles.figure, db === null ? styles.quiet : styles.strong)}>
          {level(db).replace(' dB', '')}
        </span>
      </button>
    </li>
  );
}
