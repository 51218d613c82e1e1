import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { api, type CaptureStatus, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { tell } from '../../api/notices';
import { HoldButton } from '../../app/controls/HoldButton';
import { clock, count } from '../../look/format';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

type Kind = 'point' | 'begin' | 'end';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.matches('input, textarea') || target.isContentEditable);

interface MarkingProps {
  capture: CaptureStatus;
  guarded: boolean;
  rate: number;
}

/** Sets markers and sections in the current take, by buttons and keys; and the capture guard. */
export function Marking({ capture, guarded, rate }: MarkingProps) {
  const { mutate: mark } = useCommand(async (kind: Kind) => {
    const made = await taken(api.POST('/api/capture/mark', { body: { kind } }));
    tell({ kind: 'info', text: `${made.name} at ${clock(made.at / rate)}` });
  });
  const section: Kind = capture.section ? 'end' : 'begin';
  useEffect(() => {
    const keys = (event: globalThis.KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (event.key === 'm') mark('point');
      else if (event.key === 's') mark(section);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [mark, section]);
  return (
    <div className={styles.tools}>
      <Button variant="outlined" onClick={() => mark('point')}>
        Marker&nbsp;<kbd>M</kbd>
      </Button>
      <Button variant="outlined" onClick={() => mark(section)}>
        {capture.section ? 'End section' : 'Begin section'}&nbsp;<kbd>S</kbd>
      </Button>
      <Guard guarded={guarded} />
      <span className={cx(styles.hint, styles.figure)}>
        {count(capture.marker_count, 'marker')} · edits that would damage the take are blocked
      </span>
    </div>
  );
}

/** What would harm the take does not get through until the guard is opened on purpose; it closes on its own. */
function Guard({ guarded }: { guarded: boolean }) {
  const turn = useCommand((open: boolean) => taken(api.POST('/api/capture/guard', { body: { open } })));
  return guarded ? (
    <HoldButton
      variant="outlined"
      onHeld={() => turn.mutate(true)}
      onShort={() => tell({ kind: 'info', text: 'Hold 1 s to unlock edits for 1 min.' })}
    >
      Edits locked
    </HoldButton>
  ) : (
    <Button variant="outlined" color="warning" onClick={() => turn.mutate(false)}>
      Edits unlocked
    </Button>
  );
}
