import { AsyncLocalStorage } from 'node:async_hooks';
import { randomBytes } from 'node:crypto';
import { log } from './log';

/** A request that is being answered, as the log tells of it: never what it says. */
interface LoggedRequest {
  /** Short enough to be read out over the telephone. A fault that a person is shown has it as its number. */
  readonly id: string;
  personId: string | null;
}

// One store per process, even if a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & { embrinRequests?: AsyncLocalStorage<LoggedRequest> };
const requests = (): AsyncLocalStorage<LoggedRequest> => (held.embrinRequests ??= new AsyncLocalStorage());

/** A new number for a request or a fault. */
export const requestNumber = (): string => randomBytes(4).toString('hex');

/** The number of the request that the calling code answers; a new one outside of any. */
export const currentNumber = (): string => requests().getStore()?.id ?? requestNumber();

/** Notes who asks, once that is known. */
export function noteCaller(personId: string): void {
  const running = requests().getStore();
  if (running) running.personId = personId;
}

/** Answers a request, and logs one line of it: its number, where, who, how long in milliseconds, and the answer's status. */
export async function logged(where: string, work: () => Promise<Response>): Promise<Response> {
  const request: LoggedRequest = { id: requestNumber(), personId: null };
  const began = performance.now();
  const answer = await requests().run(request, work);
  log().info(
    {
      request: request.id,
      where,
      person: request.personId,
      ms: Math.round((performance.now() - began) * 10) / 10,
      status: answer.status,
    },
    'answered',
  );
  return answer;
}
