/** The web-standard globals that the core uses; browsers and Node have them alike. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes: Uint8Array): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
interface AbortSignal {
  readonly aborted: boolean;
  throwIfAborted(): void;
}
