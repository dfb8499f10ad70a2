import { toNextJsHandler } from 'better-auth/next-js';
import { answering } from '@/app/http/answer';
import { auth } from '@/server/auth/auth';

const handlers = () => toNextJsHandler(auth());

export const GET = (request: Request): Promise<Response> => answering(() => handlers().GET(request));
export const POST = (request: Request): Promise<Response> => answering(() => handlers().POST(request));
