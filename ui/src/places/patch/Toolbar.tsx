import Button from '@mui/material/Button';
import { memo, type RefObject } from 'react';
import type { Port, Show } from '../../api/client';
import { redo, undo } from '../../api/edits';
import { lookAt } from '../../api/preview';
import { type Filter, FILTER_WORDS, FILTERS, type strandsOf } from './sheet/filter';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './sheet/sheet.module.css';

export type PatchDialog = 'run' | 'tracks' | 'list' | 'keys';

interface ToolbarProps {
  show: Show;
  kinds: ReturnType<typeof strandsOf>;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  find: string;
  finder: RefObject<HTMLInputElement | null>;
  onFind: (text: string) => void;
  onFound: () => void;
  at: Port | undefined;
  range: Port[] | null;
  onPair: (port: Port) => void;
  onEditRange: () => void;
  onDialog: (dialog: PatchDialog) => void;
}

const Steps = memo(function Steps({ onDialog }: Pick<ToolbarProps, 'onDialog'>) {
  return (
    <>
      <Button variant="contained" onClick={() => void lookAt('auto_patch')}>
        Auto-patch…
      </Button>
      <Button variant="outlined" onClick={() => onDialog('list')}>
        Input list…
      </Button>
      <Button variant="outlined" onClick={() => onDialog('run')}>
        Patch in order…
      </Button>
      <Button variant="outlined" onClick={() => onDialog('tracks')}>
        Tracks…
      </Button>
    </>
  );
});

const UndoRedo = memo(function UndoRedo({
  undoable,
  redoable,
}: Record<'undoable' | 'redoable', string | null>) {
  return (
    <span className={cx(styles.row, styles.end)}>
      <Button disabled={!undoable} title={undoable ?? ''} onClick={() => void undo()}>
        Undo
      </Button>
      <Button disabled={!redoable} title={redoable ?? ''} onClick={() => void redo()}>
        Redo
      </Button>
    </span>
  );
});

/** Tools and filters of the sheet. */
export function Toolbar(props: ToolbarProps) {
  const {
    show,
    kinds,
    filter,
    onFilter,
    find,
    finder,
    onFind,
    onFound,
    at,
    range,
    onPair,
    onEditRange,
    onDialog,
  } = props;
  const channel = at?.rail === 'channel' ? at : null;
  const left = channel && show.channels[channel.number % 2 === 1 ? channel.number - 1 : channel.number - 2];
  return (
    <>
      <div className={styles.tools}>
        <Steps onDialog={onDialog} />
        <Button variant="outlined" disabled={!channel} onClick={() => channel && onPair(channel)}>
          {left?.paired ? 'Split' : 'Pair'}
        </Button>
        {range && (
          <Button variant="outlined" onClick={onEditRange}>
            Set {range.length} at once…
          </Button>
        )}
        <UndoRedo undoable={show.undo} redoable={show.redo} />
      </div>
      <div className={styles.tools}>
        <input
          ref={finder}
          className={styles.find}
          aria-label="Find a strand"
          placeholder="find a strand  /"
          value={find}
          onChange={(event) => onFind(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              onFind('');
              event.currentTarget.blur();
            } else if (event.key === 'Enter' || event.key === 'ArrowDown') {
              event.preventDefault();
              onFound();
            }
          }}
        />
        <span role="radiogroup" aria-label="Strands" className={styles.row}>
          {FILTERS.map((one) => (
            <button
              key={one}
              type="button"
              role="radio"
              aria-checked={one === filter}
              className={cx(styles.chip, one === filter && styles.on)}
              onClick={() => onFilter(one)}
            >
              {FILTER_WORDS[one]}{' '}
              <span className={styles.figure}>{one === 'all' ? show.strands.length : kinds[one].size}</span>
            </button>
          ))}
        </span>
        <span className={cx(styles.hint, styles.end, own.keyHints)}>
          <kbd>Enter</kbd> or type to set · <kbd>F2</kbd> name · <kbd>?</kbd> keys
        </span>
      </div>
    </>
  );
}
