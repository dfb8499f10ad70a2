import sharp from 'sharp';
import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { blobStore } from '@/server/blobs/blobStore';
import { problemResponse } from './answer';
import type { Content } from './contentResponse';

/** The most of a scan that is taken into memory to turn a page of it into a picture. */
const greatestScanBytes = 120_000_000;

/** A page of a scan, from 1, as a picture that a browser can show. */
export async function scanPage(content: Content, page: number): Promise<Response> {
  if (content.sizeBytes > greatestScanBytes)
    refuse('too-large', 'This scan is too large to show here. Take a copy to read it.');
  const pieces: Buffer[] = [];
  for await (const piece of blobStore.read(content.contentId, 0, content.sizeBytes)) pieces.push(piece);
  try {
    const picture = await sharp(Buffer.concat(pieces), { page: page - 1 })
      .png()
      .toBuffer();
    return new Response(new Uint8Array(picture), {
      headers: {
        'content-type': 'image/png',
        'cache-control': 'private, no-cache',
        'x-content-type-options': 'nosniff',
      },
    });
  } catch {
    return problemResponse(
      new z.ZodError([
        { code: 'custom', path: ['page'], message: 'That page of the scan cannot be shown.', input: page },
      ]),
    );
  }
}
