/**
 * The web process: Next.js behind a server of our own, which knows the connection that each request came by. `PORT` says where
 * it listens, on loopback; what stands in front of it for others is the host's.
 */
import { createServer, type IncomingMessage } from 'node:http';
import next from 'next';
import { config } from '@/server/base/config';
import { log } from '@/server/log/log';
import { addressHeader, clientAddress, trustedProxies } from '@/server/http/address';
import { tellLength } from '@/server/http/length';

const port = Number(process.env['PORT'] ?? 4780);
const trusted = trustedProxies(config().EMBRIN_TRUSTED_PROXIES);
/** A request's head has to arrive within this time: nobody holds a connection open by sending slowly. */
const headersTimeoutMs = 20_000;

function place(request: IncomingMessage): void {
  const forwarded = [request.headers['x-forwarded-for'] ?? []].flat().join(',');
  request.headers[addressHeader] = clientAddress(request.socket.remoteAddress ?? '', forwarded, trusted);
}

const app = next({ dev: false, dir: process.cwd(), hostname: '127.0.0.1', port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  place(request);
  tellLength(response);
  void handle(request, response);
});
server.headersTimeout = headersTimeoutMs;
server.listen(port, '127.0.0.1', () => log().info({ port }, 'listening'));
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
  });
