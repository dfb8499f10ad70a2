/** A page of a paper as a picture. The reader's browser keeps it for a while, and nobody else's. */
export const pageResponse = (picture: Buffer, etag: string): Response =>
  new Response(new Uint8Array(picture), {
    headers: {
      'content-type': 'image/jpeg',
      'cache-control': 'private, max-age=60',
      'cross-origin-resource-policy': 'same-origin',
      etag: `"${etag}"`,
      'x-content-type-options': 'nosniff',
    },
  });
