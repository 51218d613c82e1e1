import Button from '@mui/material/Button';
import type { Show } from '../../api/client';
import { useLiveState } from '../../api/live';
import { flip } from '../../api/edits';
import { count } from '../../look/format';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './soundcheck.module.css';

interface Line {
  kind: 'well' | 'look' | 'open';
  text: string;
}

/** What is safe about the way there, and the way back always in reach. */
export function SafePanel({ show, onTake }: { show: Show; onTake: number }) {
  const state = useLiveState();
  const lines = safety(show, onTake, state?.desk.apart ?? null);
  return (
    <aside className={styles.side} aria-label="Flip checks">
      <h2>Flip checks</h2>
      <ul className={own.safe}>
        {lines.map((line) => (
          <li
            key={line.text}
            className={line.kind === 'look' ? own.waits : line.kind === 'open' ? own.open : undefined}
          >
            <span className={own.mark} aria-hidden="true">
              {{ well: '✓', look: '!', open: '○' }[line.kind]}
            </span>
            {line.text}
          </li>
        ))}
      </ul>
      {onTake > 0 && (
        <div role="status" className={own.said}>
          <strong className={styles.inLook}>{count(onTake, 'channel')} on take.</strong> No stage input there.
        </div>
      )}
      <Button
        fullWidth
        variant="contained"
        color="warning"
        size="large"
        disabled={onTake === 0}
        onClick={() => void flip('stage')}
      >
        Return to stage
      </Button>
      <p className={cx(styles.hint, styles.apart)}>
        A flip changes only the channel’s source. Undo does not affect it; use Return to stage.
      </p>
    </aside>
  );
}

function safety(show: Show, onTake: number, apart: number | null): Line[] {
  const takeable = show.strands.filter((strand) => strand.return !== null && strand.channel_number !== null);
  const home = takeable.filter((strand) => strand.comes_home);
  const preamp = takeable.filter((strand) => strand.tap === 'preamp');
  const all = takeable.length;
  return [
    { kind: home.length === all ? 'well' : 'look', text: `Returns to own channel: ${home.length} of ${all}` },
    {
      kind: preamp.length === all ? 'well' : 'look',
      text: `Tapped at the preamp: ${preamp.length} of ${all}`,
    },
    apart === null
      ? { kind: 'look', text: 'The desk does not answer' }
      : {
          kind: apart === 0 ? 'well' : 'look',
          text: apart === 0 ? 'All settings verified' : `Desk: ${count(apart, 'difference')}`,
        },
    onTake === 0
      ? { kind: 'well', text: 'All channels on stage' }
      : { kind: 'open', text: 'Back to stage, verified' },
  ];
}
