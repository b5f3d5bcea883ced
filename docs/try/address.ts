// The text of the editor in the address of the page, packed.

const bytesThrough = async (bytes: Uint8Array<ArrayBuffer>, stream: CompressionStream | DecompressionStream): Promise<Uint8Array> =>
  new Uint8Array(await new Response(new Blob([bytes]).stream().pipeThrough(stream)).arrayBuffer());

/** The most characters that are unpacked from an address. */
const MOST = 100_000;

/** @returns the part of an address behind `#` */
export async function pack(text: string): Promise<string> {
  const bytes = await bytesThrough(new TextEncoder().encode(text), new CompressionStream('deflate-raw'));
  return btoa(String.fromCharCode(...bytes)).replace(/[+/=]/g, (character) => ({ '+': '-', '/': '_' })[character] ?? '');
}

/** @returns the text; nothing for what is none */
export async function unpack(hash: string): Promise<string | undefined> {
  try {
    const bytes = Uint8Array.from(atob(hash.replace(/-/g, '+').replace(/_/g, '/')), (character) => character.charCodeAt(0));
    const text = new TextDecoder('utf-8', { fatal: true }).decode(await bytesThrough(bytes, new DecompressionStream('deflate-raw')));
    return text === '' || text.length > MOST ? undefined : text;
  } catch {
    return undefined;
  }
}
