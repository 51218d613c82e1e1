import type { Preview, Settings } from './client';
import type { StepKind, StepOptions } from './edits';
import { takeCarefully } from './preview';

// What somebody would hear otherwise, what would break, or what would be wrong then is shown before it is done.
const asks = (preview: Preview) =>
  preview.heard.length > 0 ||
  preview.follow !== null ||
  preview.losses.length > 0 ||
  preview.findings_new.length > 0;

/** Takes a step at once unless somebody should look at it first. */
export const changeBy = (kind: StepKind, options: StepOptions) => void takeCarefully(kind, options, asks);

/** Likewise sets settings. */
export const change = (settings: Settings) => changeBy('settings', { settings });
