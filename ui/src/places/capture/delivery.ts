import { api, type DeliveryPlan, Refused, taken } from '../../api/client';

/** Where a delivery is: sent, or in a folder of the recording computer. */
export type Source = { id: string } | { folder: string };

const AGAIN_MS = 250;

/** What a look into a delivery found; it is carried out in its own time and asked for until it is over. */
export async function looked(id: string, onSeen: (files: number) => void): Promise<DeliveryPlan> {
  for (;;) {
    const look = await taken(api.GET('/api/deliveries/looks/{id}', { params: { path: { id } } }));
    if (look.plan) return look.plan;
    if (look.state === 'failed')
      throw new Refused(
        { error: { message: look.error ?? 'It could not be looked at.', where: 'folder' } },
        422,
      );
    onSeen(look.seen);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}

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
