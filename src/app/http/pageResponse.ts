/** A page of a paper as a picture. The reader's browser keeps it for a while, and nobody else's. */
export const pageResponse = (picture: Buffer, sha256: string, page: number): Response =>
  new Response(new Uint8Array(picture), {
    headers: {
      'content-type': 'image/jpeg',
      'cache-control': 'private, max-age=60',
      'cross-origin-resource-policy': 'same-origin',
      etag: `"${sha256}-${page}"`,
      'x-content-type-options': 'nosniff',
    },
  });
