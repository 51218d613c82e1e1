import type { Port, Show } from '../../../api/client';
import { lookAt } from '../../../api/preview';
import { Entry } from './Entry';

interface MoveProps {
  way: 'return' | 'send';
  lanes: number[];
  onClose: () => void;
}

/** Moves card lanes with all that refers to them, in one previewed edit. */
export function LaneMove({ way, lanes, onClose }: MoveProps) {
  const [from = 1] = lanes;
  const words =
    lanes.length === 1 ? `card ${way} ${from}` : `card ${way}s ${from} to ${lanes.at(-1) ?? from}`;
  const move = (text: string) =>
    void lookAt('move_lanes', { way, from, count: lanes.length, to: Number(text) }, { onDone: onClose });
  return <Entry label={`Move ${words} to card ${way}`} onKeep={move} />;
}

/** The lane of a cell; both where a stereo track uses it and its neighbour. */
export function lanesOf(show: Show, { rail, number }: Port): number[] {
  const used = show.tracks.map((track) => (rail === 'send' ? track.inputs : track.outputs));
  return used.find((lanes) => lanes.length === 2 && lanes.includes(number)) ?? [number];
}
