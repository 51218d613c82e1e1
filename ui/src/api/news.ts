import type { Schemas, Show } from './client';
import { shareShow } from './share';

// The show as the application told it last. What this page only expects (echo.ts) is not in it: the application tells what has changed since the
// edition that it named, and that is added here.
export type ShowNews = Schemas['ShowNews'];
type Change = Schemas['PatchOperation'];

let told: Show | undefined;

/** Knows of no show, as a page that was just opened. */
export function forgetTold() {
  told = undefined;
}

/** The edition that is here, for a request to name. */
export const since = (): { since?: string } => (told?.edition ? { since: told.edition } : {});

/** The show that an answer comes to; undefined where it tells what has changed since an edition that is not here any more. */
export function learn(answer: Show | ShowNews): Show | undefined {
  if ('changes' in answer) return hear(answer);
  if (told?.id === answer.id && told.version > answer.version) return answer; // it was long on its way
  told = shareShow(told, answer);
  return told;
}

function hear({ changes, since: from, ...now }: ShowNews): Show | undefined {
  if (told && told.edition !== now.edition) {
    if (told.edition !== from) return undefined;
    told = { ...changed(told, changes), ...now };
  } else if (told) told = { ...told, ...now };
  return told;
}

type Node = Record<string, unknown> | unknown[];

/** A show with changes made to it; what they do not touch stays the same object. */
export function changed(show: Show, changes: Change[]): Show {
  const top: Record<string, unknown> = { ...show };
  const own = new Set<unknown>([top]);
  // What stands in a place, as a copy that may be changed.
  const inside = (node: Node, key: string): Node => {
    const here = (node as Record<string, unknown>)[key] as Node;
    if (own.has(here)) return here;
    const copy = Array.isArray(here) ? [...here] : { ...here };
    own.add(copy);
    (node as Record<string, unknown>)[key] = copy;
    return copy;
  };
  for (const { op, path, value } of changes) {
    const keys = path.slice(1).split('/').map(key);
    const last = keys.pop() ?? '';
    put(keys.reduce(inside, top as Node), last, op, value);
  }
  return top as unknown as Show;
}

// RFC 6901: "~1" stands for a slash.
const key = (part: string) => part.replaceAll('~1', '/').replaceAll('~0', '~');

function put(node: Node, at: string, op: Change['op'], value: unknown) {
  if (!Array.isArray(node)) {
    if (op === 'remove') Reflect.deleteProperty(node, at);
    else node[at] = value;
  } else if (op === 'replace') node[Number(at)] = value;
  else node.splice(Number(at), op === 'remove' ? 1 : 0, ...(op === 'add' ? [value] : []));
}
