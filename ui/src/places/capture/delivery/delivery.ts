import { api, type DeliveryChoice, type DeliveryItem, type DeliveryPlan, taken } from '../../../api/client';
import { lookedInto } from '../../../app/controls/SourcePick';

/** The result of scanning recordings. */
export const looked = (id: string, onSeen: (files: number) => void): Promise<DeliveryPlan> =>
  lookedInto(() => taken(api.GET('/api/deliveries/looks/{id}', { params: { path: { id } } })), onSeen);

/** A recording as it stands to be brought in: or left out, where it is not taken. */
export interface Row extends DeliveryChoice {
  taken: boolean;
}

/** One row of all of them, and what takes them changed. */
export interface RowProps {
  items: DeliveryItem[];
  rows: Row[];
  at: number;
  onChange: (rows: Row[]) => void;
}

/** Takes only the first of the recordings whose names differ in a number alone. */
export function firstOfEach(items: DeliveryItem[], rows: Row[]): Row[] {
  const seen = new Set<string>();
  return rows.map((row, at) => {
    const key = items[at]?.key ?? '';
    const first = key === '' || !seen.has(key);
    seen.add(key);
    return { ...row, taken: first };
  });
}

/** All taken, or none; where some are named, those alone. */
export const tickedAll = (rows: Row[], taken: boolean, only?: number[]): Row[] =>
  rows.map((row, at) => (only && !only.includes(at) ? row : { ...row, taken }));

type Piece = Row['pieces'][number];

export const rowsOf = (plan: DeliveryPlan): Row[] =>
  plan.items.map(({ pieces, track, offset }) => ({
    pieces: pieces.map((piece) => piece.map(({ file, lane }) => ({ file, lane }))),
    track,
    offset,
    taken: true,
  }));

export const changed = (rows: Row[], at: number, what: Partial<Row>): Row[] =>
  rows.map((row, index) => (index === at ? { ...row, ...what } : row));

/** Chooses a track for a recording; whoever had it gives it up. */
export const withTrack = (rows: Row[], at: number, track: number | null): Row[] =>
  rows.map((row, index) => {
    if (index === at) return { ...row, track };
    return track !== null && row.track === track ? { ...row, track: null } : row;
  });

const joined = (rows: Row[], at: number, other: number, pieces: Piece[]): Row[] =>
  rows.flatMap((row, index) => {
    if (index === other) return [];
    return [index === at ? { ...row, pieces, track: row.track ?? rows[other]?.track ?? null } : row];
  });

/** One recording goes on with another. */
export const joinedBehind = (rows: Row[], at: number, other: number): Row[] =>
  joined(rows, at, other, [...(rows[at]?.pieces ?? []), ...(rows[other]?.pieces ?? [])]);

/** One recording has another for its right side, part by part. */
export const joinedAside = (rows: Row[], at: number, other: number): Row[] =>
  joined(
    rows,
    at,
    other,
    (rows[at]?.pieces ?? []).map((piece, part) => [...piece, ...(rows[other]?.pieces[part] ?? [])]),
  );

/** Mono, and of as many parts: then they can be left and right. */
export const canStandAside = (one: DeliveryItem, other: DeliveryItem) =>
  [one, other].every((item) => item.pieces.every((piece) => piece.length === 1 && piece[0]?.lanes === 1)) &&
  one.pieces.length === other.pieces.length;

const apart = (rows: Row[], at: number, all: Piece[][]): Row[] =>
  rows.flatMap((row, index) =>
    index === at
      ? all.map((pieces, part) => ({ ...row, pieces, track: part === 0 ? row.track : null }))
      : [row],
  );

export const splitParts = (rows: Row[], at: number): Row[] =>
  apart(rows, at, rows[at]?.pieces.map((piece) => [piece]) ?? []);

/** Number of channels it could be split into; 1 where it is one. */
export const channels = (item: DeliveryItem): number =>
  Math.min(
    ...item.pieces.map((piece) =>
      piece.length > 1 ? piece.length : piece[0]?.lane === null ? piece[0].lanes : 1,
    ),
  );

export const splitChannels = (rows: Row[], at: number, many: number): Row[] =>
  apart(
    rows,
    at,
    Array.from({ length: many }, (_, lane) =>
      (rows[at]?.pieces ?? []).map((piece): Piece => {
        const [first] = piece;
        if (piece.length > 1) return piece.slice(lane, lane + 1);
        return first ? [{ ...first, lane }] : [];
      }),
    ),
  );

/** A part comes before the one that it followed. */
export const earlier = (rows: Row[], at: number, part: number): Row[] => {
  const pieces = [...(rows[at]?.pieces ?? [])];
  pieces.splice(part - 1, 0, ...pieces.splice(part, 1));
  return changed(rows, at, { pieces });
};

export const wanted = (rows: Row[]): DeliveryChoice[] =>
  rows.filter((row) => row.taken).map(({ pieces, track, offset }) => ({ pieces, track, offset }));

export const mostParts = (rows: Row[]) => Math.max(0, ...rows.map((row) => row.pieces.length));

/** Names of its files, as people read them. */
export const filesOf = (item: DeliveryItem) =>
  item.pieces
    .map((piece) =>
      piece.map(({ name, lane }) => (lane === null ? name : `${name} channel ${lane + 1}`)).join(' with '),
    )
    .join(', ');
