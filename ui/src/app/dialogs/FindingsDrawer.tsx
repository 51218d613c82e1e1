import Button from '@mui/material/Button';
import Drawer from '@mui/material/Drawer';
import { type FormEvent, memo, useMemo, useState } from 'react';
import type { Finding, Preview } from '../../api/client';
import { step } from '../../api/edits';
import { takeCarefully } from '../../api/preview';
import { press } from '../../api/press';
import { useFindings, useShow } from '../../api/queries';
import { showPort } from '../shell/jump';
import { count } from '../../look/format';
import { bothClosed } from '../controls/closed';
import { StateNote } from '../status/StateNote';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from '../shell/shell.module.css';

const WORDS = { blocks: 'Blocks the show', look: 'Needs a look' } as const;

/** What the checks find, each with its evidence, its fix where there is one, or the reason why it may stay. */
export const FindingsDrawer = memo(function FindingsDrawer({
  open,
  onClose,
}: {
  open: boolean;
  onClose: () => void;
}) {
  return (
    <Drawer anchor="right" open={open} onClose={onClose} slotProps={{ paper: { 'aria-label': 'Findings' } }}>
      <Inside onClose={onClose} />
    </Drawer>
  );
}, bothClosed);

function Inside({ onClose }: { onClose: () => void }) {
  const show = useShow().data;
  // Those of how the desk is mixed come and go while nobody edits anything.
  const findings = useFindings().data ?? show?.findings ?? [];
  const ports = useMemo(() => new Set(show?.sheet.ports.map((port) => port.id)), [show]);
  const waiting = findings.filter((one) => one.accepted === null);
  const accepted = findings.filter((one) => one.accepted !== null);
  return (
    <section className={own.findings}>
      <div className={own.findingsHead}>
        <h2>{waiting.length === 0 ? 'No findings' : count(waiting.length, 'finding')}</h2>
        <Button onClick={onClose}>Close</Button>
      </div>
      {waiting.length === 0 && (
        <StateNote kind="empty">No open findings{accepted.length > 0 && ' that nobody accepted'}.</StateNote>
      )}
      {waiting.map((finding) => (
        <FindingRow
          key={finding.id}
          finding={finding}
          ports={ports}
          onShow={(port) => {
            onClose();
            showPort(port);
          }}
        />
      ))}
      {accepted.length > 0 && <h3 className={styles.apart}>Accepted</h3>}
      {accepted.map((finding) => (
        <article key={finding.id} className={own.finding}>
          <p>{finding.sentence}</p>
          <p className={own.findingPath}>Accepted: {finding.accepted}</p>
          <Button size="small" onClick={() => void step('reopen', { finding: finding.id })}>
            Reopen
          </Button>
        </article>
      ))}
    </section>
  );
}

interface RowProps {
  finding: Finding;
  /** Ids of the sheet's ports, so that what is on it can be shown there. */
  ports: Set<string>;
  onShow: (port: string) => void;
}

// What a fix would take away is shown before it is done; one that only mends is one press.
const takesAway = (preview: Preview) =>
  preview.losses.length > 0 ||
  preview.findings_new.length > 0 ||
  preview.heard.some((one) => one.from !== null && (one.to === null || one.to < one.from));
const mend = (fix: NonNullable<Finding['fix']>) =>
  void takeCarefully('settings', { settings: fix.settings, label: fix.label }, takesAway);

function FindingRow({ finding, ports, onShow }: RowProps) {
  const { fix, path, press: levels, severity, sentence } = finding;
  const [accepting, accept] = useState(false);
  const port = finding.at.find((point) => ports.has(point));
  const shown = path.slice(0, 6).map((one) => one.label);
  return (
    <article className={own.finding}>
      <p>
        <span className={cx(styles.strong, severity === 'blocks' ? styles.inStop : styles.inLook)}>
          {WORDS[severity]}.
        </span>{' '}
        {sentence}
      </p>
      <p className={own.findingPath}>
        {shown.join(' › ')}
        {path.length > shown.length && ` and ${path.length - shown.length} more`}
      </p>
      <div className={styles.row}>
        {fix && (
          <Button variant="outlined" onClick={() => mend(fix)}>
            {fix.label}
          </Button>
        )}
        {levels && (
          <Button variant="outlined" onClick={() => void press(levels.label, levels.values)}>
            {levels.label}…
          </Button>
        )}
        {port && <Button onClick={() => onShow(port)}>Show</Button>}
        {!accepting && <Button onClick={() => accept(true)}>Accept…</Button>}
      </div>
      {accepting && <Reason finding={finding.id} onCancel={() => accept(false)} />}
    </article>
  );
}

/** Why a finding may stay. */
function Reason({ finding, onCancel }: { finding: string; onCancel: () => void }) {
  const [reason, setReason] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void step('accept', { finding, reason });
  };
  return (
    <form className={cx(styles.row, styles.apart)} onSubmit={submit}>
      <input
        className={cx(styles.find, styles.grow)}
        aria-label="Reason"
        placeholder="Reason"
        value={reason}
        autoFocus
        maxLength={200}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" variant="outlined" disabled={reason.trim() === ''}>
        Accept
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </form>
  );
}
