import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Take } from '../../../api/client';
import { clock } from '../../../look/format';
import own from '../capture.module.css';

/** The part between two markers, or from the start or to the end. */
export function useBetween(take: Take) {
  const points = [
    { at: 0, name: 'the start' },
    ...[...take.markers].sort((one, other) => one.at - other.at),
    { at: take.frames, name: 'the end' },
  ];
  const [ends, setEnds] = useState<[number, number] | null>(null);
  const last = points.length - 1;
  const [from, to] = ends ?? [Math.min(1, last), Math.min(2, last)];
  const choose = (first: number, second: number) => setEnds([first, Math.max(second, first + 1)]);
  const field = (label: string, value: number, least: number, onChoose: (at: number) => void) => (
    <TextField
      select
      size="small"
      label={label}
      className={own.exportAs}
      value={value}
      onChange={(event) => onChoose(Number(event.target.value))}
    >
      {points.flatMap((point, at) =>
        at < least || at > last - (label === 'From' ? 1 : 0)
          ? []
          : [
              <MenuItem key={at} value={at}>
                {point.name}, {clock(point.at / take.rate)}
              </MenuItem>,
            ],
      )}
    </TextField>
  );
  const [start, end] = [points[from], points[to]];
  return {
    able: take.markers.length > 0,
    range: { from: start?.at ?? 0, to: end?.at ?? take.frames, part: `${start?.name} to ${end?.name}` },
    fields: (
      <>
        {field('From', from, 0, (at) => choose(at, to))}
        {field('Until', to, from + 1, (at) => choose(from, at))}
      </>
    ),
  };
}
