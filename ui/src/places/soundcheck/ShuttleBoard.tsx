import { type CSSProperties, useMemo } from 'react';
import type { Channel, Show } from '../../api/client';
import { flip } from '../../api/edits';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { Meter } from '../../meters/Meter';

// Ends and shuttle in pixels; the way between them is what is left.
const END = 78;
const SHUTTLE = 220;
const STUB = 74;

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
  const { name: theme } = useThemeName();
  const onTake = channel.position === 'take';
  const lane = show.profile.meter_lanes.findIndex((base) => base.split('/')[2] === String(channel.number));
  const name = channel.name || `Channel ${channel.number}`;
  const go = (to: 'stage' | 'take') => {
    if (to !== channel.position) void flip(to, [channel.number]);
  };
  const label = `${name}: ${onTake ? 'on take, hears the card' : 'on stage'}`;
  return (
    <div
      className="board-lane"
      role="listitem"
      style={{ '--dye': dyeColour(channel.colour, theme) } as CSSProperties}
    >
      <span className={`board-end ${onTake ? '' : 'heard'}`} style={{ left: 18 }}>
        {marks.get(channel.stage ?? '') ?? 'none'}
      </span>
      <span className={`board-end ${onTake ? 'heard' : ''}`} style={{ right: 18 }}>
        {marks.get(channel.take ?? '') ?? 'none'}
      </span>
      {onTake ? (
        <>
          <i className="board-line dotted" style={{ left: END, width: STUB }} />
          <i className="board-line drawn" style={{ left: `calc(50% - 20px)`, right: END }} />
        </>
      ) : (
        <>
          <i className="board-line drawn" style={{ left: END, width: STUB }} />
          {channel.take && <i className="board-line dotted" style={{ right: END, width: STUB }} />}
        </>
      )}
      <button
        type="button"
        className="shuttle"
        disabled={!channel.take && !onTake}
        title={channel.take ? together(show, channel) : 'Hears no card return on take; set one in Patch'}
        aria-label={label}
        aria-pressed={onTake}
        style={{ left: onTake ? `calc(100% - ${END + STUB + SHUTTLE}px)` : END + STUB }}
        onClick={() => go(onTake ? 'stage' : 'take')}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft') go('stage');
          if (event.key === 'ArrowRight') go('take');
        }}
      >
        <span className="quiet figure">{channel.number}</span>
        <span className="shuttle-name strong">{name}</span>
        <Meter point={{ of: 'desk', index: lane }} label={`Level of ${name} at the desk`} />
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
