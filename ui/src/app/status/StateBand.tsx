import { useState } from 'react';
import type { LiveState } from '../../api/client';
import { useLiveState } from '../../api/live';
import { useShow } from '../../api/queries';
import { count } from '../../look/format';
import { DeskDialog } from '../dialogs/DeskDialog';
import { diskWords } from './disk';
import { HelpButton } from '../help/HelpButton';
import { PersonMenu } from '../shell/PersonMenu';
import { ShowsDialog } from '../dialogs/ShowsDialog';
import { TroublePill } from './TroublePill';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from '../shell/shell.module.css';

interface BandProps {
  onFindings: () => void;
  /** Whether "?" opens the glossary: not on pages with their own keys. */
  help: boolean;
}

/** What is true now, on every screen: show, clock, desk, positions, recorder and disk, findings. */
export function StateBand({ onFindings, help }: BandProps) {
  const state = useLiveState();
  const about = useShow().data?.about;
  const [desk, openDesk] = useState(false);
  const [shows, openShows] = useState(false);
  return (
    <header className={own.band}>
      <button type="button" className={own.bandShow} onClick={() => openShows(true)} title="Shows">
        <h1>
          {about?.name ?? 'Loomshuttle'}
          <svg viewBox="0 0 12 12" width="11" height="11" aria-hidden="true">
            <path d="M2 4l4 4 4-4" fill="none" stroke="currentColor" strokeWidth="1.6" />
          </svg>
        </h1>
        <span>{[about?.act, about?.date && day(about.date)].filter(Boolean).join(' · ')}</span>
      </button>
      {state && (
        <>
          <Fact {...clockFact(state)} />
          <Fact {...deskFact(state)} onClick={() => openDesk(true)} />
          <Fact
            title={`${state.positions.stage} on stage · ${state.positions.take} on take`}
            words="sources"
            kind={state.positions.take > 0 ? 'look' : ''}
          />
          <Fact {...recorderFact(state)} />
        </>
      )}
      <div className={own.bandEnd}>
        {state && state.positions.take > 0 && (
          <a className={cx(styles.pill, styles.look)} href="#/soundcheck">
            {count(state.positions.take, 'channel')} on take
          </a>
        )}
        {state && <TroublePill troubles={state.troubles} />}
        {state && <FindingsPill findings={state.findings} onClick={onFindings} />}
        <HelpButton byKey={help} />
        <PersonMenu />
      </div>
      <DeskDialog open={desk} onClose={() => openDesk(false)} />
      <ShowsDialog open={shows} onClose={() => openShows(false)} />
    </header>
  );
}

interface FactProps {
  title: string;
  words: string;
  kind: '' | 'look' | 'stop';
  onClick?: () => void;
}

function Fact({ title, words, kind, onClick }: FactProps) {
  const inside = (
    <>
      <strong className={styles.figure}>{title}</strong>
      <span className={styles.figure}>{words}</span>
    </>
  );
  return onClick ? (
    <button type="button" className={cx(own.bandFact, kind && own[kind])} onClick={onClick}>
      {inside}
    </button>
  ) : (
    <div className={cx(own.bandFact, kind && own[kind])}>{inside}</div>
  );
}

function FindingsPill({ findings, onClick }: { findings: LiveState['findings']; onClick: () => void }) {
  const all = findings.blocks + findings.look;
  const kind = findings.blocks > 0 ? 'stop' : findings.look > 0 ? 'look' : 'well';
  return (
    <button type="button" className={cx(styles.pill, styles[kind])} onClick={onClick}>
      {all === 0 ? 'No findings' : count(all, 'finding')}
    </button>
  );
}

const day = (date: string) =>
  new Date(`${date}T12:00:00`).toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'long',
  });

function clockFact({ rate, clock, recorder }: LiveState): FactProps {
  const running = recorder.up && recorder.clock;
  const one = clock.endsWith('leads the clock');
  const title = `${rate / 1000} kHz`;
  if (!running) return { title, words: 'no clock', kind: 'stop' };
  // By this computer's own time.
  if (recorder.off && recorder.hz)
    return { title, words: `measured ${Math.round(recorder.hz)} Hz`, kind: 'look' };
  return { title, words: clock, kind: one ? '' : 'stop' };
}

function deskFact({ desk }: LiveState): FactProps {
  if (!desk.up) return { title: 'Desk offline', words: 'no reply', kind: 'stop' };
  if (desk.stranger) return { title: 'Another desk', words: 'than planned', kind: 'stop' };
  const waits = desk.follows ? '' : ' · waits for Send';
  if (!desk.apart) return { title: 'Desk in sync', words: `all settings match${waits}`, kind: '' };
  return {
    title: `Desk: ${count(desk.apart, 'difference')}`,
    words: `compare and send${waits}`,
    kind: 'look',
  };
}

function recorderFact({ recorder, disk }: LiveState): FactProps {
  const left = diskWords(disk);
  if (!recorder.up) return { title: 'Recorder offline', words: 'no reply', kind: 'stop' };
  if (recorder.capture)
    return { title: `Capturing take ${recorder.capture.number}`, words: left, kind: 'stop' };
  if (recorder.take_playback)
    return { title: `Playing take ${recorder.take_playback.number}`, words: left, kind: 'look' };
  if (recorder.recovering)
    return {
      title: `Recovering take ${recorder.recovering.number}`,
      words: `${Math.floor(recorder.recovering.done * 100)} % of levels · ready`,
      kind: '',
    };
  return { title: 'Recorder ready', words: left, kind: '' };
}
