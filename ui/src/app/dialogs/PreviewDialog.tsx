import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { Preview } from '../../api/client';
import { takePreview } from '../../api/edits';
import { lookAt, type Looking, stopLooking, useLooking } from '../../api/preview';
import { count } from '../../look/format';
import { ChangeTable } from './ChangeTable';
import { HeardChanges } from './HeardChanges';
import { Notes } from './Notes';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

/** What a step would do, looked at before it is taken: what breaks, what is mended, and every setting in words. */
export function PreviewDialog() {
  const looking = useLooking();
  return (
    <Dialog open={looking !== null} onClose={stopLooking} maxWidth="md" fullWidth>
      {looking && <Inside looking={looking} />}
    </Dialog>
  );
}

function Inside({ looking }: { looking: Looking }) {
  const { preview, ways, kind, options, onDone, since } = looking;
  const changes = preview.changes.length;
  const take = () =>
    void takePreview(
      preview,
      (refused) =>
        // Somebody else was first: what it would do now is looked at, and taken by the same key.
        void lookAt(kind, options, { ...looking, since: refused.message }),
    ).then((done) => {
      if (!done) return;
      stopLooking();
      onDone?.();
    });
  return (
    <>
      <DialogTitle>{preview.label}</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          {since !== undefined && (
            <p role="alert" className={cx(styles.note, styles.look)}>
              {since} Below is what it would do now.
            </p>
          )}
          {ways.length > 1 && (
            <div className={styles.row} role="radiogroup" aria-label="How">
              {ways.map((way) => {
                const chosen = Object.entries(way.options).every(([key, value]) => options[key] === value);
                return (
                  <Button
                    key={way.label}
                    role="radio"
                    aria-checked={chosen}
                    variant={chosen ? 'contained' : 'outlined'}
                    onClick={() => void lookAt(kind, { ...options, ...way.options }, looking)}
                  >
                    {way.label}
                  </Button>
                );
              })}
            </div>
          )}
          <Losses preview={preview} />
          {preview.follow && <Follow looking={looking} follow={preview.follow} />}
          <Problems problems={preview.problems} />
          <Notes title="Still not captured" kind="look" lines={preview.uncaptured} />
          <Notes title="Patched individually" kind="look" lines={preview.notes} />
          <Notes title="New findings" kind="look" lines={preview.findings_new} />
          <Notes title="Resolved findings" kind="well" lines={preview.findings_gone} />
          <HeardChanges changes={preview.heard} more={preview.heard_more} />
          {preview.parts.length > 0 && <Parts looking={looking} />}
          {changes === 0 ? (
            <p className={styles.quiet}>Nothing to change; it is already set this way.</p>
          ) : (
            <ChangeTable changes={preview.changes} heads={['Now', 'Then']} />
          )}
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={stopLooking}>Cancel</Button>
        <Button variant="contained" disabled={changes === 0} onClick={take} autoFocus>
          Apply {count(changes, 'change')}
        </Button>
      </DialogActions>
    </>
  );
}

const PARTS: Record<Preview['parts'][number]['kind'], string> = {
  new: 'new',
  renamed: 'renamed',
  moved: 'moved',
  changed: '',
  removed: '',
  'left out': '',
};

/** What was not accepted, in the groups that the application makes, the most harmful first. */
function Problems({ problems }: { problems: Preview['problems'] }) {
  const groups = [...new Set(problems.map((one) => one.group))];
  return (
    <>
      {groups.map((group) => (
        <Notes
          key={group ?? ''}
          title={group ?? 'Not accepted'}
          kind="look"
          lines={problems
            .filter((one) => one.group === group)
            .map((one) => `${one.where ? `${one.where}: ` : ''}${one.message}`)}
        />
      ))}
    </>
  );
}

/**
 * Which lines of a proposal are taken. Lines without room stand on their own: one that is ticked gets the room of one that is not. So does what
 * is no longer on the list; it is removed only where it is ticked.
 */
function Parts({ looking }: { looking: Looking }) {
  const { preview, kind, options } = looking;
  const removed = preview.parts.filter((part) => part.kind === 'removed');
  const leftOut = preview.parts.filter((part) => part.kind === 'left out');
  const staying = preview.parts.filter((part) => part.kind !== 'removed' && part.kind !== 'left out');
  const titles = staying.map((part) => part.title);
  const only = (options['only'] as string[] | undefined) ?? titles;
  const choose = (next: string[]) => void lookAt(kind, { ...options, only: next }, looking);
  const gone = only.filter((one) => !titles.includes(one));
  const tick = { only, choose };
  return (
    <>
      {staying.length > 0 && (
        <fieldset className={styles.parts}>
          <legend>
            {only.length - gone.length} of {count(staying.length, 'input')} selected{' '}
            <Button size="small" onClick={() => choose([...titles, ...gone])}>
              All
            </Button>
            <Button size="small" onClick={() => choose(gone)}>
              None
            </Button>
          </legend>
          {staying.map((part) => (
            <Tick key={part.title} part={part} {...tick} />
          ))}
        </fieldset>
      )}
      {leftOut.length > 0 && (
        <fieldset className={styles.parts}>
          <legend>
            {count(leftOut.length, 'input')} without a channel: untick others, and tick those that need one
          </legend>
          {leftOut.map((part) => (
            <Tick key={part.title} part={part} {...tick} />
          ))}
        </fieldset>
      )}
      {removed.length > 0 && (
        <details>
          <summary>{count(removed.length, 'channel')} in use but not on the list: tick to remove</summary>
          <div className={styles.parts}>
            {removed.map((part) => (
              <Tick key={part.title} part={part} {...tick} />
            ))}
          </div>
        </details>
      )}
    </>
  );
}

function Tick(props: { part: Preview['parts'][number]; only: string[]; choose: (next: string[]) => void }) {
  const { part, only, choose } = props;
  return (
    <label>
      <Checkbox
        size="small"
        checked={only.includes(part.title)}
        onChange={(_, on) => choose(on ? [...only, part.title] : only.filter((one) => one !== part.title))}
      />
      {part.title}{' '}
      <span className={styles.quiet}>{[PARTS[part.kind], part.note].filter(Boolean).join(', ')}</span>
    </label>
  );
}

// What begins at a channel or a mix; the others are sockets and personal lanes.
const STRAND = /^desk\/(ch|bus|main|matrix)\//;

function Losses({ preview }: { preview: Preview }) {
  const words = (losses: Preview['losses']) =>
    losses.map((loss) => `${loss.name} loses ${loss.lost.join(' and ')}`);
  const strands = words(preview.losses.filter((loss) => STRAND.test(loss.channel)));
  const outputs = words(preview.losses.filter((loss) => !STRAND.test(loss.channel)));
  return (
    <>
      <Notes
        title={strands.length === 1 ? 'This breaks a strand' : `This breaks ${strands.length} strands`}
        kind="stop"
        lines={strands}
      />
      <Notes
        title={
          outputs.length === 1 ? 'An output loses something' : `${outputs.length} outputs lose something`
        }
        kind="stop"
        lines={outputs}
      />
    </>
  );
}

/** Who heard the returns that are left behind, and the edit that takes them along. */
function Follow({ looking, follow }: { looking: Looking; follow: NonNullable<Preview['follow']> }) {
  const { preview } = looking;
  const along = () =>
    void lookAt(
      'settings',
      { settings: { ...preview.settings, ...follow.settings }, label: preview.label },
      looking.onDone ? { onDone: looking.onDone } : {},
    );
  return (
    <div className={styles.row}>
      <p className={cx(styles.note, styles.look)}>{follow.words}</p>
      <Button variant="outlined" onClick={along}>
        Move along
      </Button>
    </div>
  );
}
