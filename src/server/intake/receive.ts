import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import { mostMailBytes } from '@/core/intake/model';
import { logFault } from '../log/fault';
import { keepMail } from './keep';

/** So many senders at once; the others wait for their turn. Each may hold a whole mail in memory. */
const mostSenders = 8;
/** A sender that says nothing for so long is let go. */
const silentMs = 60_000;
/** When the library stops, mails on their way have so long to come to an end; what does not is sent again. */
const closingMs = 3000;
/** A mail goes to so many addresses at most (RFC 5321, 4.5.3.1.8 asks for a hundred). */
const mostAddresses = 100;

/** What a sending server is told, with its code (RFC 5321, 4.2.3; RFC 3463). */
class Refused extends Error {
  override readonly name = 'Refused';
  constructor(
    readonly responseCode: number,
    says: string,
  ) {
    super(says);
  }
}

/**
 * Takes mail for the library (SMTP, RFC 5321): the stand-in for an organisation’s own mail server, on loopback. A sender is told that a
 * mail was taken once it is kept for good; told otherwise, or nothing, it sends the mail again.
 * @param port 0: any that is free
 */
export async function receiveMail(port: number): Promise<{ readonly port: number; stop(): Promise<void> }> {
  const server = new SMTPServer({
    banner: 'Embrin takes mail for the library',
    authOptional: true,
    // No passwords are taken, and the connection does not leave this machine.
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    size: mostMailBytes,
    maxClients: mostSenders,
    socketTimeout: silentMs,
    closeTimeout: closingMs,
    onRcptTo(_address, { envelope }, callback) {
      // Any address is taken: an answer would tell strangers which dossiers there are.
      callback(envelope.rcptTo.length >= mostAddresses ? refused(452, '4.5.3 Too many addresses') : null);
    },
    onData(stream, session, callback) {
      take(stream, session).then(
        () => callback(null, 'Kept'),
        (error: unknown) => callback(error instanceof Refused ? error : unkept(error)),
      );
    },
  });
  // A sender that goes away in the middle is no fault of ours, and its mail is not taken.
  server.on('error', (error: Error) => void error);
  await new Promise<void>((ready, failed) => {
    server.once('error', failed);
    server.listen(port, '127.0.0.1', () => ready());
  });
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address !== null ? address.port : port,
    stop: () => new Promise((stopped) => server.close(() => stopped())),
  };
}

/** How long until a port that was taken is tried again. */
const againMs = 10_000;

/** Takes mail at a port as soon as that is free. All else goes on meanwhile. */
export class MailPort {
  #open: Awaited<ReturnType<typeof receiveMail>> | null = null;
  #again: NodeJS.Timeout | null = null;

  constructor(readonly port: number) {
    void this.#try();
  }

  async stop(): Promise<void> {
    if (this.#again) clearTimeout(this.#again);
    await this.#open?.stop();
  }

  async #try(): Promise<void> {
    try {
      this.#open = await receiveMail(this.port);
    } catch (error) {
      logFault(error, { where: 'mail in' });
      this.#again = setTimeout(() => void this.#try(), againMs);
    }
  }
}

const refused = (code: number, says: string): Refused => new Refused(code, says);

/** Nothing was kept; the sender is to send it again. */
function unkept(error: unknown): Refused {
  const number = logFault(error, { where: 'mail in' });
  return refused(451, `4.3.0 Not kept, send it again later (fault ${number})`);
}

async function take(stream: SMTPServerDataStream, { envelope }: SMTPServerSession): Promise<void> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    size += piece.length;
    // What is too large is read to its end, and not kept.
    if (size <= mostMailBytes) pieces.push(piece);
    else pieces.length = 0;
  }
  if (size > mostMailBytes) throw refused(552, '5.3.4 A mail of more than 64 MB is not taken');
  const from = envelope.mailFrom === false ? '' : envelope.mailFrom.address;
  await keepMail(Buffer.concat(pieces), { from, to: envelope.rcptTo.map(({ address }) => address) });
}
