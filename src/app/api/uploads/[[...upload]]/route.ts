import { Server } from '@tus/server';
import { z } from 'zod';
import { toProblem } from '@/core/errors/problem';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { IssueKind } from '@/core/errors/issue';
import { greatestMaxFileBytes } from '@/core/library/model';
import { answering, problemResponse } from '@/app/http/answer';
import { requireActing } from '@/server/acts/act';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { config } from '@/server/base/config';
import { ownUpload } from '@/server/uploads/receive';
import { outcomeOf } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';
import { UploadStore } from '@/server/uploads/tusStore';

const withdrawn: ReadonlySet<IssueKind> = new Set(['not-allowed', 'not-found']);

const held = globalThis as typeof globalThis & { embrinTus?: Server };

/** The tus 1.0 server: its protocol is the library's; who may, where to and what is kept are ours. */
function tus(): Server {
  held.embrinTus ??= new Server({
    path: '/api/uploads',
    relativeLocation: true,
    datastore: new UploadStore(),
    maxSize: greatestMaxFileBytes,
    allowedOrigins: [config().EMBRIN_URL],
    namingFunction: () => crypto.randomUUID(),
    onUploadCreate: async (request, upload) => {
      const actor = await requireActor(request.headers);
      await startUpload(actor, upload.id, upload.size ?? 0, upload.metadata ?? {});
      return {};
    },
    onIncomingRequest: async (request, id) => {
      const actor = await requireActor(request.headers);
      requireActing(actor);
      if (request.method === 'POST') return;
      if (!z.uuid().safeParse(id).success) refuse('not-found');
      await ownUpload(actor, id);
    },
    onUploadFinish: async (request, upload) => {
      const outcome = await outcomeOf(await requireActor(request.headers), upload.id);
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
