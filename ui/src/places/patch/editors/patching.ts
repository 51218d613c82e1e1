import type { Preview, Settings, Show } from '../../../api/client';
import { set } from '../../../api/edits';
import { takeCarefully } from '../../../api/preview';

const RETURNS = /^track\/\d+\/outputs$/;
const MOVES = /^channel\/\d+\/(stage|take|position)$/;

/** Sets cells. On a desk that patches in blocks, what moves along or takes a free slot is shown first; elsewhere it is
 * done at once. */
export function patch(show: Show, settings: Settings, label?: string): Promise<boolean> {
  // Whoever hears a return that is left behind is offered to move along.
  if (Object.keys(settings).some((path) => RETURNS.test(path)))
    return takeCarefully(
      'settings',
      { settings, ...(label ? { label } : {}) },
      (preview) => preview.follow !== null,
    );
  const blocks = show.profile.stage_block > 1 || show.profile.take_block > 1;
  if (!blocks || !Object.keys(settings).some((path) => MOVES.test(path))) return set(settings, label);
  const asks = (preview: Preview) => preview.notes.length > 0 || movesMore(preview, settings);
  const ways = Object.keys(settings).some((path) => path.endsWith('/stage'))
    ? [
        { label: 'Use a free slot', options: { moving: 'slot' } },
        { label: 'Move the whole block', options: { moving: 'block' } },
      ]
    : [];
  return takeCarefully('settings', { settings, moving: 'slot', ...(label ? { label } : {}) }, asks, { ways });
}

/** Whether something moves along that somebody has named: idle channels follow their block without a word. */
const movesMore = (preview: Preview, settings: Settings) =>
  preview.losses.length > 0 ||
  preview.changes.some((change) => !(change.path in settings) && !/^Channel \d+$/.test(change.what));
