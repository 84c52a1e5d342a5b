import { FormatError } from './csv';

/** A longer line is no log, characters. */
const LONGEST_LINE = 1_000_000;

/** Lines of a text as the bytes come, with their number from 1. @throws FormatError for a line of more than a million characters */
export async function* textLines(
  bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  file: string,
): AsyncGenerator<{ line: number; text: string }[]> {
  const decoder = new TextDecoder('utf-8');
  let rest = '';
  let line = 0;
  const take = function* (text: string): Generator<{ line: number; text: string }> {
    let start = 0;
    for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', start)) {
      line++;
      yield { line, text: text.slice(start, end > start && text[end - 1] === '\r' ? end - 1 : end) };
      start = end + 1;
    }
    rest = text.slice(start);
  };
  for await (const chunk of bytes) {
    const some = [...take(rest + decoder.decode(chunk, { stream: true }))];
    if (rest.length > LONGEST_LINE) throw new FormatError(`${file}: line ${line + 1}: a line of more than a million characters is no log`);
    if (some.length) yield some;
  }
  const last = [...take(rest + decoder.decode())];
  if (rest) last.push({ line: line + 1, text: rest });
  if (last.length) yield last;
}
