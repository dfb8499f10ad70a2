/** Takes mail into the library of a test file until it is killed. Says at which port: `mailTaker.ts PORT`. */
import { receiveMail } from '@/server/intake/receive';

const { port } = await receiveMail(Number(process.argv[2]));
process.stdout.write(`${port}\n`);
