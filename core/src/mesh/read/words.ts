import { MeshFault } from '../fault.ts';

const POWERS = Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
const [TAB, LINE, RETURN, SPACE, MINUS, PLUS, DOT, ZERO, NINE] = [9, 10, 13, 32, 45, 43, 46, 48, 57];

/**
 * Walks over the words of a text file without making strings of them: a model of a million triangles has ten million
 * words. Lines end with LF, CR LF or CR.
 */
export class Words {
  at: number;
  line = 1;
  /** The word that was found last: from `from` to before `to`. */
  from = 0;
  to = 0;

  constructor(
    readonly bytes: Uint8Array,
    start = 0,
  ) {
    const marked = start === 0 && bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
    this.at = marked ? 3 : start;
  }

  /** Goes to the next word, over line ends too. @returns false at the end of the file */
  next(): boolean {
    const { bytes } = this;
    let { at } = this;
    const end = bytes.length;
    for (; at < end; at++) {
      const byte = bytes[at]!;
      if (byte === LINE) this.line++;
      else if (byte === RETURN) {
        if (bytes[at + 1] !== LINE) this.line++;
      } else if (byte !== SPACE && byte !== TAB && byte !== 0 && byte !== 11 && byte !== 12) break;
    }
    return this.take(at);
  }

  /** Goes to the next word of the same line, over a line end that is escaped by a backslash. @returns false at its end */
  nextOnLine(): boolean {
    const { bytes } = this;
    let { at } = this;
    for (; at < bytes.length; at++) {
      const byte = bytes[at]!;
      if (byte === 92 && (bytes[at + 1] === LINE || bytes[at + 1] === RETURN)) {
        at += bytes[at + 1] === RETURN && bytes[at + 2] === LINE ? 2 : 1;
        this.line++;
      } else if (byte === LINE || byte === RETURN) {
        this.at = at;
        return false;
      } else if (byte !== SPACE && byte !== TAB && byte !== 0) break;
    }
    return this.take(at);
  }

  private take(from: number): boolean {
    const { bytes } = this;
    this.from = from;
    let to = from;
    while (to < bytes.length && bytes[to]! > SPACE) to++;
    // A backslash right before the line end is no part of the word.
    if (to > from + 1 && bytes[to - 1] === 92 && (bytes[to] === LINE || bytes[to] === RETURN)) to--;
    this.to = this.at = to;
    return to > from;
  }

  /** Leaves the rest of the line unread. */
  skipLine(): void {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] !== LINE && bytes[this.at] !== RETURN) this.at++;
  }

  /** Whether the word that was found is this one (lower case), whatever its capitals. */
  is(word: string): boolean {
    if (this.to - this.from !== word.length) return false;
    for (let i = 0; i < word.length; i++) if ((this.bytes[this.from + i]! | 32) !== word.charCodeAt(i)) return false;
    return true;
  }

  /** The word as text, cut where it is long. */
  text(most = 40): string {
    let text = '';
    for (let i = this.from; i < Math.min(this.to, this.from + most); i++) text += String.fromCharCode(this.bytes[i]!);
    return this.to - this.from > most ? `${text}…` : text;
  }

  /** The next word of the file as a number. @throws MeshFault naming the line where there is none */
  number(): number {
    if (!this.next()) throw new MeshFault(`the file ends in line ${this.line}, in the middle of a triangle or vertex`);
    return this.asNumber();
  }

  /** The word that was found as a number. Exact: digits below 2⁵³ and a power of ten up to 22 round once; the rest goes the long way. */
  asNumber(): number {
    const { bytes, from, to } = this;
    let at = from;
    const negative = bytes[at] === MINUS;
    if (negative || bytes[at] === PLUS) at++;
    let digits = 0;
    let count = 0;
    let scale = 0;
    for (; at < to; at++) {
      const byte = bytes[at]!;
      if (byte < ZERO || byte > NINE) break;
      digits = digits * 10 + (byte - ZERO);
      count++;
    }
    if (at < to && bytes[at] === DOT)
      for (at++; at < to; at++) {
        const byte = bytes[at]!;
        if (byte < ZERO || byte > NINE) break;
        digits = digits * 10 + (byte - ZERO);
        count++;
        scale--;
      }
    if (count > 0 && at < to && (bytes[at]! | 32) === 101) {
      let exponent = 0;
      let seen = 0;
      at++;
      const down = bytes[at] === MINUS;
      if (down || bytes[at] === PLUS) at++;
      for (; at < to && bytes[at]! >= ZERO && bytes[at]! <= NINE && seen < 6; at++, seen++)
        exponent = exponent * 10 + (bytes[at]! - ZERO);
      if (seen === 0) return this.slowNumber();
      scale += down ? -exponent : exponent;
    }
    if (count === 0 || at !== to || digits > Number.MAX_SAFE_INTEGER || scale > 22 || scale < -22)
      return this.slowNumber();
    const value = scale < 0 ? digits / POWERS[-scale]! : digits * POWERS[scale]!;
    return negative ? -value : value;
  }

  private slowNumber(): number {
    const text = this.text(400);
    const value = Number(text);
    if (text !== '' && !Number.isNaN(value)) return value;
    if (/^[-+]?\d+,\d+(e[-+]?\d+)?$/i.test(text))
      throw new MeshFault(
        `line ${this.line} has "${this.text()}": numbers with a decimal comma are not read; save the model with decimal points`,
      );
    if (/^[-+]?(nan|inf|1\.#)/i.test(text))
      throw new MeshFault(`line ${this.line} has a coordinate that is not a number`);
    throw new MeshFault(`line ${this.line} has "${this.text()}" where a number is expected`);
  }
}
