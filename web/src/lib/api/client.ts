import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Client = Schemas['ClientView'];
export type Line = Schemas['LineView'];
export type MatchDoc = Schemas['MatchDoc'];
export type Prescribed = Schemas['PrescribedDoc'];
export type Swap = Schemas['SwapDoc'];
export type Detail = Schemas['DetailDoc'];
export type AdjustableParameter = Schemas['AdjustableParameterDoc'];
export type Calculator = Schemas['CalculatorView'];
export type CalculatorAnswer = Schemas['AnswerView'];
export type Lenses = Schemas['LensesView'];
export type Move = Schemas['MoveDoc'];
export type Rank = Schemas['RankDoc'];
export type Profile = Schemas['ProfileDoc'];
export type MovementDoc = Schemas['MovementDoc'];
export type Example = Schemas['ExampleDoc'];
export type ClientDoc = Schemas['ClientDoc'];
export type PlaceDoc = Schemas['PlaceDoc'];
export type Size = Schemas['SizeDoc'];
export type Reach = Schemas['ReachDoc'];
export type ReachCell = Schemas['CellDoc'];
export type Purchase = Schemas['PurchaseDoc'];
export type Kind = Schemas['KindView'];
export type Fit = Schemas['FitDoc'];
export type Steady = Schemas['SteadyDoc'];
export type Fault = Schemas['Fault'];
export type Problem = Schemas['Problem'];

export type ProgramRecord = Schemas['ProgramRecordView'];
export type KeptProgram = Schemas['KeptProgramDoc'];
export type LineDoc = Schemas['LineDoc'];
export type LineForm = Schemas['LineForm'];
export type WrittenLine = Schemas['LineFormView'];
export type PutAway = Schemas['PutAwayView'];
export type Kinds = PutAway['kind'];
export type ReadFile = Schemas['ReadFile'];

export const api = createClient<paths>({ baseUrl: '/' });

/** Revisions of the records that this page read last, by their path. */
const tags = new Map<string, string>();
/** The record that a path writes to: where a client trains belongs to the client. */
const recordOf = (url: string) => new URL(url).pathname.replace(/(\/clients\/\d+)\/places$/, '$1');

api.use({
  onRequest({ request }) {
    const tag = tags.get(recordOf(request.url));
    if (tag && ['PUT', 'DELETE'].includes(request.method)) request.headers.set('If-Match', tag);
    return request;
  },
  onResponse({ request, response }) {
    // Where coaches sign in, who is not signed in is asked to; cards have their own links.
    if (response.status === 401 && !['/sign-in', '/card'].includes(location.pathname))
      location.assign('/sign-in');
    const tag = response.headers.get('ETag');
    if (response.ok && tag && request.method !== 'POST') tags.set(recordOf(request.url), tag);
    return response;
  },
});

/** A key of our own for making a record: the same request sent twice makes one. */
export const once = () => ({ 'Idempotency-Key': crypto.randomUUID() });

/** What a request came to: the answer, or a problem in words that can be shown as it is. */
export type Answer<T> = { data: T; problem?: undefined } | { data?: undefined; problem: Problem };

export const unreachable: Problem = {
  type: 'about:blank',
  title: 'The app does not answer',
  status: 0,
  detail: 'Check that it is still running, then try again. Nothing was lost.',
  faults: [],
};

/** An answer that is none, without words of its own. */
export const failed: Problem = {
  type: 'about:blank',
  title: 'The app failed at this',
  status: 500,
  detail: 'What was stored before is safe. Reload the page; if it happens again, restart the app.',
  faults: [],
};

/** Wait for a request; a network failure becomes a problem like any other. */
export async function ask<T>(
  request: Promise<{ data?: T; error?: unknown; response?: Response }>,
): Promise<Answer<T>> {
  try {
    const { data, error, response } = await request;
    if (data !== undefined) return { data };
    const told = error && typeof error === 'object' ? (error as Partial<Problem>) : {};
    return { problem: { ...failed, status: response?.status ?? failed.status, ...told } };
  } catch {
    return { problem: unreachable };
  }
}
