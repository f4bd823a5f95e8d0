import type { Random } from '@gezeit/core/simulate';

const CELLS = [
  '',
  'NaN',
  '-',
  '1e999',
  '-1e999',
  '#DIV/0!',
  '12:61:99',
  '99/99/9999',
  '1.234.567,8',
  '"',
  '""',
  '\u0000',
  '=1',
  '٣٤',
  'x'.repeat(5000),
];
/** Larger ones are refused by their size alone. */
const MOST_BYTES = 4 * 1024 ** 2;
const SEPARATORS = [',', ';', '\t', '|', ' '];

/** A file changed in one to five places: cut, doubled, swapped, overwritten, its cells, separators or encoding replaced. */
export function mutated(bytes: Uint8Array, random: Random): Uint8Array {
  let now: Buffer = Buffer.from(bytes);
  const times = 1 + Math.floor(random.uniform() * 5);
  for (let i = 0; i < times; i++) now = change(now, random).subarray(0, MOST_BYTES);
  return now;
}

function change(bytes: Buffer, random: Random): Buffer {
  const at = () => Math.floor(random.uniform() * bytes.length);
  const one = <T>(list: readonly T[]) => list[Math.floor(random.uniform() * list.length)]!;
  const lines = () => bytes.toString('latin1').split('\n');
  const joined = (list: string[]) => Buffer.from(list.join('\n'), 'latin1');
  switch (Math.floor(random.uniform() * 12)) {
    case 0:
      return bytes.subarray(0, at());
    case 1:
      return bytes.subarray(at());
    case 2: {
      const copy = Buffer.from(bytes);
      for (let i = 0; i < 20 && copy.length > 0; i++) copy[at()] = Math.floor(random.uniform() * 256);
      return copy;
    }
    case 3: {
      const [from, to] = [at(), at()].sort((a, b) => a - b) as [number, number];
      return Buffer.concat([bytes.subarray(0, to), bytes.subarray(from)]);
    }
    case 4: {
      const list = lines();
      const [a, b] = [Math.floor(random.uniform() * list.length), Math.floor(random.uniform() * list.length)];
      [list[a], list[b]] = [list[b]!, list[a]!];
      return joined(list);
    }
    case 5: {
      const [from, to] = [one(SEPARATORS), one(SEPARATORS)];
      return Buffer.from(bytes.toString('latin1').replaceAll(from, to), 'latin1');
    }
    case 6: {
      const list = lines();
      const row = Math.floor(random.uniform() * list.length);
      const cells = list[row]!.split(/[,;\t]/);
      cells[Math.floor(random.uniform() * cells.length)] = one(CELLS);
      list[row] = cells.join(',');
      return joined(list);
    }
    case 7: {
      const list = lines();
      list.splice(Math.floor(random.uniform() * list.length), 1 + Math.floor(random.uniform() * 3));
      return joined(list);
    }
    case 8:
      return Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(bytes.toString('utf8'), 'utf16le')]);
    case 9:
      return Buffer.from(bytes.toString('latin1').replaceAll('.', ','), 'latin1');
    case 10: {
      const list = lines();
      const row = Math.floor(random.uniform() * list.length);
      list[row] = `${list[row]!.slice(0, 2000)},`.repeat(200);
      return joined(list);
    }
    default:
      return Buffer.from(
        bytes.toString('latin1').replace(/\d+/g, (figure) => (random.chance(0.01) ? one(CELLS) : figure)),
        'latin1',
      );
  }
}
