import type { Schemas, Show } from './client';

// The show as the application told it last. What this page only expects (echo.ts) is not in it: the application tells what has changed since the
// edition that it named, and that is added here.
export type ShowNews = Schemas['ShowNews'];
type Change = Schemas['PatchOperation'];

// The newest last. An answer may build on an edition before it: edits and reads are on their way at the same time.
let known: Show[] = [];
const KEPT = 8;

/** Knows of no show, as a page that was just opened. */
export function forgetTold() {
  known = [];
}

/** The edition that is here, for a request to name. */
export function since(): { since?: string } {
  const edition = known.at(-1)?.edition;
  return edition ? { since: edition } : {};
}

/** The newest show that is known with an answer; undefined where it tells what has changed since an edition that is not here any more.
 *  @param asked what the request named: a whole show that answers to the newest edition here counts, whatever its version */
export function learn(answer: Show | ShowNews, asked?: { since?: string }): Show | undefined {
  const newest = known.at(-1);
  const show = 'changes' in answer ? hear(answer) : answer;
  if (!show) return undefined;
  const current = asked !== undefined && asked.since === newest?.edition;
  if (newest && !current && newest.id === show.id && newest.version > show.version) return newest;
  known = [...known.filter((one) => one.edition !== show.edition), show].slice(-KEPT);
  return show;
}

function hear({ changes, since: from, ...now }: ShowNews): Show | undefined {
  const here = known.find((one) => one.edition === now.edition);
  if (here) return { ...here, ...now };
  const before = known.find((one) => one.edition === from);
  return before && { ...changed(before, changes), ...now };
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
