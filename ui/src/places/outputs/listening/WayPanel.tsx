import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Finding, Hearing, HearingWay, Outputs } from '../../../api/client';
import { press } from '../../../api/press';
import { lookAt } from '../../../api/preview';
import { useFindings, useWay } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import { count, level } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { jumpTo } from '../../../app/shell/jump';
import { HopHead } from '../../../app/trace/HopHead';
import hops from '../../../app/trace/trace.module.css';
import type { Heard } from './heard';
import { LevelField } from '../levels/LevelField';
import { WishFields } from './WishFields';
import own from '../outputs.module.css';

interface WayProps {
  outputs: Outputs;
  heard: Heard;
  listener: Hearing['listeners'][number];
  sheet: number | null;
}

/** The path of a source to a listener, hop by hop, with requirements and their fixes. */
export function WayPanel({ outputs, heard, listener, sheet }: WayProps) {
  const { source } = heard;
  const findings = (useFindings().data ?? []).filter((one) =>
    one.id.endsWith(`/${source.id}/${listener.number}`),
  );
  return (
    <aside className={cx(styles.side, styles.wide)} aria-label="Signal path">
      <h2>
        {source.title} → {listener.title}
      </h2>
      {sheet === null && findings.map((one) => <Mending key={one.id} finding={one} />)}
      <QueryState of={useWay(source.id, listener.number, sheet)} waiting="Tracing …">
        {(way) => <Way way={way} ears={listener.outlets.length} dye={source.dye} live={sheet === null} />}
      </QueryState>
      <WishFields outputs={outputs} source={source.id} listener={listener.number} />
    </aside>
  );
}

function Mending({ finding: { sentence, fix, press: levels } }: { finding: Finding }) {
  return (
    <div className={cx(styles.note, styles.stop, own.mending)}>
      <p>{sentence}</p>
      {fix && (
        <Button
          variant="contained"
          onClick={() => void lookAt('settings', { settings: fix.settings, label: fix.label })}
        >
          {fix.label}…
        </Button>
      )}
      {levels && (
        <Button variant="contained" onClick={() => void press(levels.label, levels.values)}>
          {levels.label}…
        </Button>
      )}
    </div>
  );
}

interface OneProps {
  way: HearingWay;
  ears: number;
  dye: string;
  live: boolean;
}

function Way({ way, ears, dye, live }: OneProps) {
  if (way.hops.length === 0) return <StateNote kind="empty">Silent: no open path.</StateNote>;
  const ways = ears > 1 && way.ways === ears ? 'both ears' : count(way.ways, 'path');
  const figures = [ways, level(way.db), `${(way.ms ?? 0).toFixed(2)} ms`];
  return (
    <>
      <p className={cx(styles.quiet, styles.figure)}>
        {figures.join(', ')}
        {way.ways > ears && '; the loudest is shown'}
      </p>
      {way.notches.length > 0 && (
        <p className={cx(styles.note, styles.look)}>
          ! Comb filtering: notches at {way.notches.map(hertz).join(', ')}.
        </p>
      )}
      {way.notches.length === 0 && way.added_db !== null && (
        <p className={styles.note}>
          All paths arrive at the same time: {level(way.added_db)} against the loudest alone, no comb.
        </p>
      )}
      <ol className={hops.hops} data-dye={dye}>
        {shortened(way.hops).map((hop) => (
          <Hop key={hop.point} hop={hop} live={live} />
        ))}
      </ol>
    </>
  );
}

const hertz = (value: number) =>
  value >= 1000 ? `${(value / 1000).toFixed(2)} kHz` : `${value.toFixed(0)} Hz`;

type HopOf = HearingWay['hops'][number];

/** Taps at which nothing happens and that nothing is set at tell nothing. */
const shortened = (all: HopOf[]) =>
  all.filter((hop, at) => {
    const [base, tap] = hop.point.split('@');
    if (!tap || at === all.length - 1) return true;
    const last = all[at + 1]?.point.split('@')[0] !== base;
    return last || hop.setting !== null || (hop.db !== null && hop.db !== 0);
  });

/** The mix of a send level. */
const sendsOf = (value: string) => /^channel\/\d+\/send\/(\d+)$/.exec(value)?.[1] ?? null;

function Hop({ hop, live }: { hop: HopOf; live: boolean }) {
  const [turning, turn] = useState(false);
  const { value } = hop;
  const gain = hop.db === null || hop.db === 0 ? [] : [level(hop.db)];
  const delay = hop.delay_ms > 0 ? [`${hop.delay_ms.toFixed(2)} ms`] : [];
  const kind = hop.value_words?.split(', ').at(-1) ?? '';
  const words = kind !== '' && hop.db !== null && hop.db !== 0 ? kind : null;
  const mute = value?.endsWith('/mute') === true;
  const text = words ? 'set' : mute ? 'mute at the desk' : `set ${kind} at the desk`;
  const act = () =>
    mute && value
      ? void press(`Mute ${hop.value_words ?? value} at the desk`, { [value]: true })
      : turn(true);
  return (
    <li>
      <HopHead label={hop.label} setting={hop.setting} />
      {(value !== null || words !== null || gain.length + delay.length > 0) && (
        <small className={styles.figure}>
          {[...(words ? [words] : []), ...gain, ...delay].join(' · ')}{' '}
          {value && live && !turning && (
            <button
              type="button"
              className={cx(styles.jump, own.turn)}
              aria-label={`${text}: ${hop.value_words ?? value}`}
              onClick={act}
            >
              {text}
            </button>
          )}
        </small>
      )}
      {value && sendsOf(value) !== null && (
        <small>
          <button
            type="button"
            className={cx(styles.jump, own.turn)}
            aria-label={`All sends beside ${hop.value_words ?? value}`}
            onClick={() => jumpTo(`sends/${sendsOf(value)}`)}
          >
            all sends of this mix
          </button>
        </small>
      )}
      {value && turning && (
        <LevelField name={value} words={hop.value_words ?? value} onDone={() => turn(false)} />
      )}
    </li>
  );
}
