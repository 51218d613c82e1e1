import { api, type DeliveryPlan, taken } from '../../api/client';
import { lookedInto } from '../../app/SourcePick';

/** What a look into a delivery found. */
export const looked = (id: string, onSeen: (files: number) => void): Promise<DeliveryPlan> =>
  lookedInto(() => taken(api.GET('/api/deliveries/looks/{id}', { params: { path: { id } } })), onSeen);

/** What becomes of an item: left out, a track of its own, or one of the show's. */
export interface Choice {
  taken: boolean;
  track: number | null;
}

export const choices = (plan: DeliveryPlan): Choice[] =>
  plan.items.map((item) => ({ taken: true, track: item.track }));

/** Chooses a track for an item; whoever had it gives it up. */
export const withTrack = (chosen: Choice[], at: number, track: number | null): Choice[] =>
  chosen.map((choice, index) => {
    if (index === at) return { ...choice, track };
    return track !== null && choice.track === track ? { ...choice, track: null } : choice;
  });

export const wanted = (plan: DeliveryPlan, chosen: Choice[]) =>
  plan.items.flatMap((item, at) => {
    const choice = chosen[at];
    return choice?.taken ? [{ files: item.files, track: choice.track }] : [];
  });

export const mostParts = (plan: DeliveryPlan) => Math.max(0, ...plan.items.map((item) => item.names.length));
