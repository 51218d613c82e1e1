import { useMemo } from 'react';
import type { Channel, Show } from '../../api/client';
import { flip } from '../../api/edits';
import { Meter } from '../../meters/Meter';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './soundcheck.module.css';

export function ShuttleBoard({ show, channels }: { show: Show; channels: Channel[] }) {
  const marks = useMemo(
    () =>
      new Map(
        show.sheet.ports.map((port) => [port.id, port.rail === 'return' ? `return ${port.mark}` : port.mark]),
      ),
    [show],
  );
  return (
    <div role="list" aria-label="Shuttle board">
      {channels.map((channel) => (
        <BoardLane key={channel.number} channel={channel} show={show} marks={marks} />
      ))}
    </div>
  );
}

interface LaneProps {
  channel: Channel;
  show: Show;
  /** Words for what it hears on stage and on take. */
  marks: Map<string, string>;
}

function BoardLane({ channel, show, marks }: LaneProps) {
  const onTake = channel.position === 'take';
  const lane = show.profile.meter_lanes.findIndex((base) => base.split('/')[2] === String(channel.number));
  const name = channel.name || `Channel ${channel.number}`;
  const go = (to: 'stage' | 'take') => {
    if (to !== channel.position) void flip(to, { channels: [channel.number] });
  };
  const label = `${channel.number} ${name}: ${onTake ? 'on take, hears the card' : 'on stage'}`;
  return (
    <div className={own.boardLane} role="listitem" data-dye={channel.colour} data-on={channel.position}>
      <span className={cx(own.boardEnd, own.stageEnd)}>{marks.get(channel.stage ?? '') ?? 'none'}</span>
      <span className={cx(own.boardEnd, own.takeEnd)}>{marks.get(channel.take ?? '') ?? 'none'}</span>
      {onTake ? (
        <>
          <i className={cx(own.stub, own.dotted, own.stageSide)} />
          <i className={cx(own.drawn, own.toTake)} />
        </>
      ) : (
        <>
          <i className={cx(own.stub, own.drawn, own.stageSide)} />
          {channel.take && <i className={cx(own.stub, own.dotted, own.takeSide)} />}
        </>
      )}
      <button
        type="button"
        className={own.shuttle}
        disabled={!channel.take && !onTake}
        title={channel.take ? together(show, channel) : 'No take source; set one in Patch'}
        aria-label={label}
        aria-pressed={onTake}
        onClick={() => go(onTake ? 'stage' : 'take')}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft') go('stage');
          if (event.key === 'ArrowRight') go('take');
        }}
      >
        <span className={cx(styles.quiet, styles.figure)}>{channel.number}</span>{' '}
        <span className={cx(own.shuttleName, styles.strong)}>{name}</span>
        <Meter className={own.shuttleMeter} point={{ of: 'desk', index: lane }} label={null} />
      </button>
    </div>
  );
}

/** On a desk that flips by block: which channels go along. */
function together({ profile }: Show, { number }: Channel): string {
  if (profile.flip !== 'block') return '';
  const first = Math.floor((number - 1) / profile.take_block) * profile.take_block + 1;
  return `Flips together with channels ${first} to ${first + profile.take_block - 1}`;
}
