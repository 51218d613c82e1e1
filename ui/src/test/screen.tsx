import { QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PropsWithChildren, ReactElement } from 'react';
import type { Preview, Show } from '../api/client';
import { queries, SHOW } from '../api/queries';
import { Look } from '../look/theme';
import { answer } from './application';
import { showOf } from './pieces';

/** A show that is on the screen, and that the application answers with. */
export function shown(part: Record<string, unknown> = {}): Show {
  const show = showOf({
    id: 1,
    version: 7,
    findings: [],
    uncaptured: [],
    strands: [],
    channels: [],
    tracks: [],
    sends: [],
    ...part,
    sheet: { ports: [], threads: [], loose: [], ...(part.sheet as object | undefined) },
  });
  queries.setQueryData(SHOW, show);
  answer('GET /api/show', show);
  return show;
}

/** What every part of the interface needs around it. */
export const Within = ({ children }: PropsWithChildren) => (
  <QueryClientProvider client={queries}>
    <Look>{children}</Look>
  </QueryClientProvider>
);

/** Draws a part of the interface with what it needs around it. */
export function draw(part: ReactElement) {
  const around = (inside: ReactElement) => <Within>{inside}</Within>;
  const drawn = render(around(part));
  return {
    user: userEvent.setup(),
    again: (next: ReactElement) => drawn.rerender(around(next)),
    unmount: drawn.unmount,
  };
}

export const previewOf = (part: Partial<Preview> = {}): Preview => ({
  version: 7,
  label: 'Something',
  settings: { 'channel/1/name': 'Tuba' },
  changes: [{ path: 'channel/1/name', what: 'Channel 1', field: 'name', from: 'none', to: 'Tuba' }],
  parts: [],
  uncaptured: [],
  problems: [],
  notes: [],
  losses: [],
  follow: null,
  findings_new: [],
  findings_gone: [],
  heard: [],
  heard_more: 0,
  ...part,
});

export const edited = (version: number) => ({
  version,
  changes: [],
  said: 'Something changed',
  desk_problems: [],
});
