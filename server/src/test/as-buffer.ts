/** Takes an answer of any kind as its bytes. */
export function asBuffer(
  res: { on: (event: 'data' | 'end', then: (chunk: Buffer) => void) => unknown },
  done: (error: Error | null, body: Buffer) => void,
): void {
  const parts: Buffer[] = []
  res.on('data', (chunk) => parts.push(chunk))
  res.on('end', () => done(null, Buffer.concat(parts)))
}
