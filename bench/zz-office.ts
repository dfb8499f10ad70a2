import { cp } from 'node:fs/promises';
import { inFolder } from '@/server/cage/file';
import { convertOffice } from '@/server/cage/office';
import { wallsHere } from '@/server/cage/walls';
import { readdirSync, statSync } from 'node:fs';
console.log(wallsHere());
const [f, filter] = process.argv.slice(2);
for (let i = 0; i < 3; i++) await inFolder(async (folder) => {
  await cp(f!, `${folder}/content`);
  const t = performance.now();
  const end = await convertOffice(`${folder}/content`, filter!, 'pages', 'made.pdf').catch((e) => e);
  console.log(end, Math.round(performance.now() - t), readdirSync(folder).map((n) => [n, statSync(`${folder}/${n}`).size]));
  if (i === 0) await cp(`${folder}/made.pdf`, '/tmp/made.pdf').catch(() => 0);
});
process.exit(0);
