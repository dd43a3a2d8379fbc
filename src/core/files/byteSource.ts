/** Bytes that can be read at any place: a file, a row of database chunks, a Blob, an array. */
export interface ByteSource {
  /** Number of bytes that are really there. */
  readonly size: number;
  /**
   * Bytes [offset, offset + length), fewer only at the end.
   * @param into room that may be used for them: they are then good until it is used again
   */
  read(offset: number, length: number, into?: Uint8Array): Promise<Uint8Array>;
}

/** A source over bytes in memory. */
export const bytesInMemory = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: async (offset, length) => bytes.subarray(offset, Math.min(bytes.length, offset + length)),
});

/** A source over a browser's File or Blob. */
export const bytesOfBlob = (blob: Blob): ByteSource => ({
  size: blob.size,
  read: async (offset, length) => new Uint8Array(await blob.slice(offset, offset + length).arrayBuffer()),
});
