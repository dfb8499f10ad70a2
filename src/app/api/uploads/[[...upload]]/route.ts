import { Server } from '@tus/server';
import { z } from 'zod';
import { toProblem } from '@/core/errors/problem';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { IssueKind } from '@/core/errors/issue';
import { greatestMaxFileBytes } from '@/core/library/model';
import { answering, problemResponse } from '@/app/http/answer';
import { requireActing } from '@/server/acts/act';
import type { Actor } from '@/server/gate/actor';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { config } from '@/server/base/config';
import { ownUpload } from '@/server/uploads/receive';
import { outcomeOf } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';
import { noteBegun, UploadStore } from '@/server/uploads/tusStore';

const withdrawn: ReadonlySet<IssueKind> = new Set(['not-allowed', 'not-found']);

/** The caller of a request, asked for by several of its steps. */
const callers = new WeakMap<Request, Promise<Actor>>();
function callerOf(request: Request): Promise<Actor> {
  const known = callers.get(request) ?? requireActor(request.headers);
  callers.set(request, known);
  return known;
}

const held = globalThis as typeof globalThis & { embrinTus?: Server };

/** The tus 1.0 server: its protocol is the library's; who may, where to and what is kept are ours. */
function tus(): Server {
  held.embrinTus ??= new Server({
    path: '/api/uploads',
    relativeLocation: true,
    datastore: new UploadStore(),
    maxSize: greatestMaxFileBytes,
    allowedOrigins: [config().EMBRIN_URL],
    namingFunction: (_request, metadata) => z.uuid().safeParse(metadata?.['id']).data ?? crypto.randomUUID(),
    onUploadCreate: async (request, upload) => {
      const actor = await callerOf(request);
      const made = await startUpload(actor, upload.id, upload.size ?? 0, upload.metadata ?? {});
      // Only where bytes come with this request: who only begins may never send any.
      if (made && request.headers.get('content-type') === 'application/offset+octet-stream') noteBegun(made);
      return {};
    },
    onIncomingRequest: async (request, id) => {
      const actor = await callerOf(request);
      requireActing(actor);
      if (request.method === 'POST') return;
      if (!z.uuid().safeParse(id).success) refuse('not-found');
      await ownUpload(actor, id);
    },
    onUploadFinish: async (request, upload) => {
      if (upload.metadata?.['filing'] === 'held') return {};
      const outcome = await outcomeOf(await callerOf(request), upload.id);
      // A right that was withdrawn meanwhile is told at once; what has another remedy is told by the outcome.
      if (outcome.state === 'refused' && withdrawn.has(outcome.issue.kind)) throw new Refusal(outcome.issue);
      return {};
    },
    onResponseError: async (_request, error) => {
      // The protocol's own errors (an offset that does not fit, a missing header) keep their words.
      if (!(error instanceof Error)) return undefined;
      if (error instanceof Refusal) {
        const problem = toProblem(error.issue);
        return { status_code: problem.status, body: JSON.stringify(problem) };
      }
      const answer = problemResponse(error, '/api/uploads/[[...upload]]');
      return { status_code: answer.status, body: await answer.text() };
    },
  });
  return held.embrinTus;
}

function handle(request: Request): Promise<Response> {
  return answering('/api/uploads/[[...upload]]', async () => {
    if (request.method !== 'HEAD' && request.method !== 'OPTIONS') requireSameOrigin(request);
    return tus().handleWeb(request);
  });
}

export { handle as HEAD, handle as OPTIONS, handle as PATCH, handle as POST };
