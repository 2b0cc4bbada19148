/** SHA-256 of a file in hexadecimal digits; null where the browser computes none, as on a page without encryption. */
export async function digestOf(file: Blob): Promise<string | null> {
  if (!isSecureContext) return null;
  const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer());
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
