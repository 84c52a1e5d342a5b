type Part = Int16Array | Uint8Array | Int32Array | Float32Array | Float64Array;

/**
 * A JSON header and typed arrays as one binary, each part aligned to 8 bytes: how rasters, cell tables and fits travel.
 * Layout: uint32 header length, header text, then the parts in the order the header lists them.
 */
export function packParts(header: object, parts: Record<string, Part>): Uint8Array {
  const list = Object.entries(parts).map(([name, part]) => ({ name, type: part.constructor.name, length: part.length }));
  const text = new TextEncoder().encode(JSON.stringify({ header, parts: list }));
  const offset = align(4 + text.length);
  const total = Object.values(parts).reduce((size, part) => align(size + part.byteLength), offset);
  const out = new Uint8Array(total);
  new Uint32Array(out.buffer, 0, 1)[0] = text.length;
  out.set(text, 4);
  let at = offset;
  for (const part of Object.values(parts)) {
    out.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), at);
    at = align(at + part.byteLength);
  }
  return out;
}

const align = (n: number): number => Math.ceil(n / 8) * 8;

const TYPES = { Int16Array, Uint8Array, Int32Array, Float32Array, Float64Array };

/** Reads what packParts wrote. @throws RangeError when it is something else or cut short */
export function unpackParts<H>(bytes: Uint8Array): { header: H; parts: Record<string, Part> } {
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  const length = buffer.byteLength >= 4 ? new Uint32Array(buffer, 0, 1)[0] : Infinity;
  if (4 + length > buffer.byteLength) throw new RangeError('the binary is cut short');
  const { header, parts: list } = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as {
    header: H;
    parts: { name: string; type: keyof typeof TYPES; length: number }[];
  };
  const parts: Record<string, Part> = {};
  let at = align(4 + length);
  for (const { name, type, length: n } of list) {
    parts[name] = new TYPES[type](buffer, at, n);
    at = align(at + parts[name].byteLength);
  }
  return { header, parts };
}
