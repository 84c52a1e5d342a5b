/** The few things every platform has (browser, worker, Node) that the language's own library does not declare. */
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
declare class TextDecoder {
  constructor(label?: string, options?: { ignoreBOM?: boolean; fatal?: boolean });
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}
