import type { CSSProperties } from 'react';
import type { Hop, Port, Show } from '../../api/client';
import { useTrace } from '../../api/queries';
import { signed } from '../../look/format';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { Meter, type MeterPoint } from '../../meters/Meter';

interface TraceProps {
  strandId: string | undefined;
  port: Port | undefined;
  show: Show;
}

/** The chosen strand hop by hop, with gain, delay, and the live level where one is measured. */
export function TracePanel({ strandId, port, show }: TraceProps) {
  const trace = useTrace(strandId, show.version).data;
  const { name: theme } = useThemeName();
  if (!strandId)
    return (
      <aside className="side" aria-label="Trace">
        <h2>
          {port?.rail} {port?.mark}
        </h2>
        <p className="empty">
          Nothing runs through here. Press Enter to patch it, or choose a strand to see its way.
        </p>
      </aside>
    );
  if (!trace) return <aside className="side" aria-label="Trace" />;

  const { strand, hops } = trace;
  const last = hops.at(-1);
  const dye = dyeColour(strand.dye, theme);
  return (
    <aside className="side" aria-label="Trace" style={{ '--dye': dye } as CSSProperties}>
      <h2>{strand.name}</h2>
      <p className="quiet">
        {strand.channel_number === null
          ? 'from the desk'
          : `channel ${strand.channel_number}, on ${strand.position}`}
      </p>
      <ol className="hops">
        {hops.map((hop) => (
          <HopLine key={hop.point} hop={hop} show={show} onStage={strand.position === 'stage'} />
        ))}
      </ol>
      <p className="quiet figure">
        {last && last.total_delay > 0 && `Whole way ${last.total_delay_ms.toFixed(1)} ms. `}
        {ending(strand.home.length, trace.comes_home)}
      </p>
    </aside>
  );
}

function ending(homes: number, comesHome: boolean): string {
  if (comesHome) return 'Comes back on its own channel.';
  return homes > 0 ? 'Comes back on another channel.' : 'Does not come back to a channel.';
}

function HopLine({ hop, show, onStage }: { hop: Hop; show: Show; onStage: boolean }) {
  const point = meterPoint(hop.point, show, onStage);
  const gain =
    hop.gain_db === null ? 'gain set by the mix' : hop.gain_db === 0 ? '' : `${signed(hop.gain_db, 1)} dB`;
  const delay = hop.delay > 0 ? `${hop.delay_ms.toFixed(2)} ms` : '';
  const figures = [gain, delay].filter(Boolean).join(' · ');
  return (
    <li className={hop.live ? '' : 'still'}>
      <span className="strong">{hop.label}</span>
      <small>{hop.text}</small>
      {figures && <small className="figure">{figures}</small>}
      {point && <Meter point={point} label={`Level at ${hop.label}`} />}
    </li>
  );
}

/** Where a point's level is measured: channels at channel in by the desk (the same as at the preamp while they are on
 * stage), card sends by the recorder. */
function meterPoint(point: string, show: Show, onStage: boolean): MeterPoint | null {
  const [base, tap] = point.split('@');
  if (tap === 'channel-in' || (tap === 'preamp' && onStage))
    return { of: 'desk', index: show.profile.meter_lanes.indexOf(base ?? '') };
  const send = point.match(/^card\/send\/(\d+)$/);
  return send ? { of: 'lanes', index: Number(send[1]) - 1 } : null;
}
