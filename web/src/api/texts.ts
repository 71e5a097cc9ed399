/** A long text of an answer, by its name: the server sends each once. */
interface Told {
  $text: string;
}

/** So many texts are remembered at the most, and named in a request. */
const MOST = 300;

const known = new Map<string, string>();

/** What is here when a request goes out: other answers may come before its own and push some of it out. */
export const textsNow = (): ReadonlyMap<string, string> => new Map(known);

const isTold = (v: object): v is Told => "$text" in v;

/** An answer whole again; the longest of its texts are kept for the next one. */
export function whole<T>(
  sent: { texts: Record<string, string>; answer: unknown },
  had: ReadonlyMap<string, string>,
): T {
  const used = new Map<string, string>();
  const filled = (v: unknown): unknown => {
    if (typeof v !== "object" || v === null) return v;
    if (Array.isArray(v)) return v.map(filled);
    if (isTold(v)) {
      const text = sent.texts[v.$text] ?? had.get(v.$text);
      if (text === undefined) throw new Error(`the answer names a text that is not here: ${v.$text}`);
      used.set(v.$text, text);
      return text;
    }
    return Object.fromEntries(Object.entries(v).map(([key, of]) => [key, filled(of)]));
  };
  const answer = filled(sent.answer) as T;
  // What was used last stays: first out is what no answer has named for longest.
  for (const [name, text] of [...used].sort((a, b) => b[1].length - a[1].length).slice(0, MOST)) {
    known.delete(name);
    known.set(name, text);
  }
  for (const name of known.keys()) {
    if (known.size <= MOST) break;
    known.delete(name);
  }
  return answer;
}
