/** Numbers as they are; packing them tighter takes longer than sending them. */
export const binary = (bytes: Uint8Array, more: Record<string, string> = {}): Response =>
  new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Cache-Control': 'private, no-cache, no-transform',
      ...more,
    },
  });
