/** Long work with its progress as it goes: server-sent events over a POST; leaving gives the work up. */
import { EventSourceParserStream } from 'eventsource-parser/stream';
import {
  failed,
  unreachable,
  type Answer,
  type MatchDoc,
  type Problem,
  type Purchase,
  type Reach,
  type Schemas,
} from './client';

type Events = {
  match: MatchDoc;
  reach: Reach;
  purchases: Purchase[];
  choice: Schemas['SessionChoiceDoc'];
};
/** Part done, 0 to 1; null while it waits for its turn. */
type Told = (part: number | null) => void;

/**
 * Ask for long work and be told how far it has come.
 *
 * Aborting the signal closes the stream; the server gives the work up where nobody else waits for it.
 */
export async function watch<K extends keyof Events>(
  what: K,
  path: string,
  body: unknown,
  told: Told,
  signal: AbortSignal,
  query: Record<string, number> = {},
): Promise<Answer<Events[K]> | null> {
  const search = new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)])).toString();
  try {
    const response = await fetch(`${path}/events${search ? `?${search}` : ''}`, {
      method: 'POST',
      headers: body === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? null : JSON.stringify(body),
      signal,
    });
    if (!response.ok || !response.body) {
      const told = (await response.json().catch(() => ({}))) as Partial<Problem>;
      return { problem: { ...failed, status: response.status, ...told } };
    }
    const events = response.body
      .pipeThrough(new TextDecoderStream())
      .pipeThrough(new EventSourceParserStream());
    const reader = events.getReader();
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return { problem: unreachable };
      if (value.event === 'progress') told(value.data ? (JSON.parse(value.data) as number | null) : null);
      if (value.event === 'answer') return { data: JSON.parse(value.data) as Events[K] };
      if (value.event === 'problem') return { problem: JSON.parse(value.data) as Problem };
    }
  } catch {
    return signal.aborted ? null : { problem: unreachable };
  }
}
