import type { CSSProperties } from 'react';
import type { Channel, Show } from '../../api/client';
import { flip } from '../../api/queries';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { Meter } from '../../meters/Meter';

// Ends and shuttle in pixels; the way between them is what is left.
const END = 78;
const SHUTTLE = 220;
const STUB = 74;

export function ShuttleBoard({ show, channels }: { show: Show; channels: Channel[] }) {
  return (
    <div role="list" aria-label="Shuttle board">
      {channels.map((channel) => (
        <BoardLane key={channel.number} channel={channel} show={show} />
      ))}
    </div>
  );
}

function BoardLane({ channel, show }: { channel: Channel; show: Show }) {
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
        {short(channel.stage)}
      </span>
      <span className={`board-end ${onTake ? 'heard' : ''}`} style={{ right: 18 }}>
        {short(channel.take)}
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
        title={channel.take ? '' : 'Hears no card return on take; set one in Patch'}
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

/** "In 3", "return 3". */
function short(point: string | null): string {
  if (!point) return 'none';
  const [, kind, number] = point.split('/');
  if (kind === 'return') return `return ${number}`;
  return `${kind === 'line' ? 'Line' : 'In'} ${number}`;
}
