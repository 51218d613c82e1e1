import type { Show, Take } from '../../api/client';

/** Whether a take tells of another show than the open one; where one of the two has no name, it is taken for ours. */
export const ofOther = (take: Pick<Take, 'project'>, show: { about: { name?: string } }) => {
  const [theirs, ours] = [take.project.trim(), (show.about.name ?? '').trim()];
  return theirs !== '' && ours !== '' && theirs !== ours;
};

export const playable = (takes: Take[]) => takes.filter((one) => one.state !== 'capturing' && one.frames > 0);

/** Where nobody has chosen: the newest take of this show, or the newest at all. */
export const usual = (takes: Take[], show: Show): Take | undefined =>
  takes.find((one) => !ofOther(one, show)) ?? takes[0];

// Chosen takes by show: kept until the page is reloaded, also while another place is open.
const chosen = new Map<number, string>();

export const remembered = (show: number) => chosen.get(show) ?? null;
export const remember = (show: number, take: string) => void chosen.set(show, take);
