import type { Schemas, Show } from './client';

// The show as last received, without the page's own unconfirmed edits (echo.ts). The application sends changes to an edition the page names; they are
// applied here.
export type ShowNews = Schemas['ShowNews'];
type Change = Schemas['PatchOperation'];

// Newest last. Edits and reads overlap, so an answer may build on an older edition.
let known: Show[] = [];
const KEPT = 8;

/** Forgets all editions, like a page that was just opened. */
export function forgetTold() {
  known = [];
}

/** The newest edition, as a query parameter. */
export function since(): { since?: string } {
  const edition = known.at(-1)?.edition;
  return edition ? { since: edition } : {};
}

/** Takes in an answer and returns the newest show; undefined if the changes build on an edition that is no longer kept.
 *  @param asked the edition named in the request. A whole show in reply to the newest edition is accepted even with a lower version. */
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

/** Applies changes to a show. Untouched parts stay the same objects. */
export function changed(show: Show, changes: Change[]): Show {
  const top: Record<string, unknown> = { ...show };
  const own = new Set<unknown>([top]);
  // The child under a key, copied once before it is changed.
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
