import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Show = Schemas['Show'];
export type Strand = Schemas['Strand'];
export type Channel = Schemas['Channel'];
export type Track = Schemas['Track'];
export type Port = Schemas['Port'];
export type Thread = Schemas['Thread'];
export type Loose = Schemas['Loose'];
export type Finding = Schemas['Finding'];
export type Hop = Schemas['Hop'];
export type Choice = Schemas['Choice'];
export type Take = Schemas['Take'];
export type TakeMarker = Schemas['Marker'];
export type DeliveryPlan = Schemas['DeliveryPlan'];
export type DeliveryItem = Schemas['DeliveryItem'];
export type DeliveryChoice = Schemas['DeliveryChoice'];
export type Export = Schemas['Export'];
export type CaptureStatus = Schemas['CaptureStatus'];
export type RollCall = Schemas['RollCall'];
export type RollLine = Schemas['RollLine'];
export type StageSocket = Schemas['StageSocket'];
export type Rig = Schemas['Rig'];
export type Outputs = Schemas['Outputs'];
export type Output = Schemas['Output'];
export type Hearing = Schemas['Hearing'];
export type HearingWay = Schemas['HearingWay'];
export type WishResult = Schemas['WishResult'];
export type HeardChange = Schemas['HeardChange'];
export type Preview = Schemas['Preview'];
export type ChangeInWords = Schemas['ChangeInWords'];
export type Playback = Schemas['Playback'];
export type PlaybackItem = Schemas['PlaybackItem'];
export type PlaybackRole = Schemas['PlaybackRole'];
export type PlayerStatus = Schemas['PlayerStatus'];
export type PlayerLevels = Schemas['PlayerLevels'];
export type Song = Schemas['Song'];
export type SongChanges = Schemas['SongChanges'];
export type SongPlan = Schemas['SongPlan'];
export type SongEntry = Schemas['SongEntry'];
export type LiveState = Schemas['LiveState'];
export type LiveLanes = Schemas['LiveLanes'];
export type LiveDesk = Schemas['LiveDesk'];
export type Edited = Schemas['Edited'];
export type ApiError = Schemas['Error'];
export type Fault = Schemas['Fault'];
export type Settings = Record<string, unknown>;

const WHO = 'loomshuttle.who';
export const whoAmI = () => localStorage.getItem(WHO) ?? '';
export const callMe = (name: string) => localStorage.setItem(WHO, name);

const BROWSER = 'loomshuttle.browser';
// Tells one browser without a name from another, so that each undoes its own edits.
const browser = () => {
  const known = localStorage.getItem(BROWSER);
  if (known) return known;
  const made = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');
  localStorage.setItem(BROWSER, made);
  return made;
};

const signed: Middleware = {
  onRequest({ request }) {
    request.headers.set('X-Loomshuttle-Browser', browser());
    request.headers.set('X-Loomshuttle-Who', encodeURIComponent(whoAmI()));
    // Changes without a body are JSON, too; the application accepts nothing else.
    if (request.method !== 'GET' && !request.body) request.headers.set('Content-Type', 'application/json');
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: window.location.origin });
api.use(signed);

/** What the application said against a request. `stale` when it was made against an old version. */
export class Refused extends Error {
  readonly stale: boolean;
  /** Whether asking again may help: the application was away, or had trouble. */
  readonly passing: boolean;
  readonly faults: Fault[];
  /** The setting or place that it is about. */
  readonly where: string | null;
  constructor(error: ApiError | undefined, status: number) {
    super(error?.error.message ?? 'The application does not answer.');
    this.where = error?.error.where ?? null;
    this.stale = status === 409 && this.where !== 'on_take';
    this.passing = status === 0 || status >= 500;
    this.faults = error?.error.faults ?? [];
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or Refused. */
export async function taken<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await answer;
  } catch {
    throw new Refused(undefined, 0);
  }
  if (got.data === undefined) throw new Refused(got.error as ApiError | undefined, got.response.status);
  return got.data;
}
