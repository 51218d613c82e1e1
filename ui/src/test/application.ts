// The application as the interface hears it in tests: what it answers to each request, and what it was asked.
export interface Asked {
  request: string;
  body: Record<string, unknown>;
  /** Its header of that name. */
  prefer: string | null;
}
type Body = Record<string, unknown>;
type Answer = object | ((body: Body, url: URL, signal: AbortSignal) => object);

/** An answer that refuses. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly message: string,
    readonly faults: { where: string; message: string }[] = [],
  ) {}
}

const answers = new Map<string, Answer>();
export const asked: Asked[] = [];

/** What is answered from now on, such as to "POST /api/edits". */
export const answer = (request: string, give: Answer) => answers.set(request, give);

/** Bodies of all requests of a kind, in order. */
export const bodies = (request: string) =>
  asked.filter((one) => one.request === request).map((one) => one.body);

export function forgetAll() {
  answers.clear();
  asked.length = 0;
}

const json = (data: object, status = 200) =>
  new Response(JSON.stringify(data), { status, headers: { 'content-type': 'application/json' } });

export async function hear(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const sent = new Request(input, init);
  const url = new URL(sent.url);
  const request = `${sent.method} ${url.pathname}`;
  const text = await sent.text();
  const isJson = sent.headers.get('content-type')?.includes('json');
  const body = text === '' ? {} : isJson ? (JSON.parse(text) as Body) : { text };
  asked.push({ request, body, prefer: sent.headers.get('prefer') });
  const found = answers.get(request);
  if (!found) return json({ error: { message: `No answer to ${request}.`, where: '' } }, 404);
  const given = await (typeof found === 'function'
    ? (found as (body: Body, url: URL, signal: AbortSignal) => object | Promise<object>)(
        body,
        url,
        sent.signal,
      )
    : found);
  if (!(given instanceof Refusal)) return json(given);
  return json({ error: { message: given.message, where: '', faults: given.faults } }, given.status);
}
