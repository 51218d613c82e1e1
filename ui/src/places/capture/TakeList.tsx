import type { Take } from '../../api/client';
import { useTakes } from '../../api/queries';
import { clock, count } from '../../look/format';

const STATES: Record<Take['state'], string> = {
  capturing: 'capturing',
  complete: '',
  'ended early': 'ended early',
  recovered: 'recovered',
};

export function TakeList() {
  const takes = useTakes();
  return (
    <aside className="side" aria-label="Takes">
      <h2>Takes</h2>
      {takes.isError && (
        <p className="empty">{takes.error.message} Captures go on; the list comes back by itself.</p>
      )}
      {takes.data?.length === 0 && (
        <p className="empty">No takes yet. Press Capture, let the band play, and press Stop.</p>
      )}
      <ul className="takes">
        {takes.data?.map((take) => (
          <TakeLine key={take.id} take={take} />
        ))}
      </ul>
    </aside>
  );
}

function TakeLine({ take }: { take: Take }) {
  const lost = take.gaps.reduce((sum, gap) => sum + gap.frames, 0);
  return (
    <li>
      <span className="strong">
        {take.number} {take.name}
      </span>{' '}
      {STATES[take.state] && <span className="quiet">{STATES[take.state]}</span>}
      <small className="figure">
        {clock(take.frames / take.rate)} · {count(take.tracks.length, 'track')}
      </small>
      {lost > 0 && (
        <small className="look figure">
          {count(take.gaps.length, 'gap')}, {((lost * 1000) / take.rate).toFixed(0)} ms silent
        </small>
      )}
      {take.note && <small className="look">{take.note}</small>}
    </li>
  );
}
