import type { Hop, Show } from '../../api/client';
import { signed } from '../../look/format';
import { HopHead } from './HopHead';
import { LevelText } from '../../meters/LevelText';
import { type MeterPoint } from '../../meters/levels';
import { Meter } from '../../meters/Meter';
import styles from '../../look/look.module.css';
import own from './trace.module.css';

interface HopsProps {
  hops: Hop[];
  show: Show;
  /** Whether the channel hears the stage, so that its preamp is what its meter measures. */
  onStage: boolean;
  dye: string;
}

/** A way, hop by hop: what happens there, by which setting, and how loud it is now. */
export function HopList({ hops, show, onStage, dye }: HopsProps) {
  return (
    <ol className={own.hops} data-dye={dye}>
      {hops.map((hop) => (
        <HopLine key={hop.point} hop={hop} show={show} onStage={onStage} />
      ))}
    </ol>
  );
}

function HopLine({ hop, show, onStage }: { hop: Hop; show: Show; onStage: boolean }) {
  const point = meterPoint(hop.point, show, onStage);
  const gain =
    hop.gain_db === null ? 'gain set by the mix' : hop.gain_db === 0 ? '' : `${signed(hop.gain_db, 1)} dB`;
  const delay = hop.delay > 0 ? `${hop.delay_ms.toFixed(2)} ms` : '';
  const figures = [gain, delay].filter(Boolean).join(' · ');
  return (
    <li className={hop.live ? undefined : own.still}>
      <HopHead label={hop.label} setting={hop.setting} />
      <small>{hop.text}</small>
      {figures && <small className={styles.figure}>{figures}</small>}
      {point && (
        <span className={own.hopLevel}>
          <Meter className={own.hopMeter} point={point} label={`Level at ${hop.label}`} />
          <LevelText point={point} />
        </span>
      )}
    </li>
  );
}

/** Where a point's level is measured: channels at channel in by the desk (the same as at the preamp while they are on
 * stage), mixes by the desk, card sends by the recorder. */
function meterPoint(point: string, show: Show, onStage: boolean): MeterPoint | null {
  const { meter_lanes, meter_mixes } = show.profile;
  const [base = '', tap] = point.split('@');
  const lane = meter_lanes.indexOf(base);
  if (lane >= 0)
    return tap === 'channel-in' || (tap === 'preamp' && onStage) ? { of: 'desk', index: lane } : null;
  const mix = meter_mixes.indexOf(base);
  if (mix >= 0 && tap !== 'pre-fader') return { of: 'desk', index: meter_lanes.length + mix };
  const send = /^card\/send\/(\d+)$/.exec(point);
  return send ? { of: 'lanes', index: Number(send[1]) - 1 } : null;
}
