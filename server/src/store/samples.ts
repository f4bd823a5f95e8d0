/** Float64 samples as little-endian bytes, as they stand in the database and on the wire. */
export function samplesToBuffer(samples: Float64Array): Buffer {
  return Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);
}

/** The samples of a stored blob; copied, since a blob need not be aligned to eight bytes. */
export function bufferToSamples(buffer: Uint8Array): Float64Array {
  const copy = new Uint8Array(buffer.byteLength);
  copy.set(buffer);
  return new Float64Array(copy.buffer);
}
