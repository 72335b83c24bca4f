// The one thing of the platform that the core uses: TextDecoder is in Node.js, browsers and workers alike (WHATWG Encoding).
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(input?: Uint8Array, options?: { stream?: boolean }): string;
}
