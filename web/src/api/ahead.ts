/** What `public/first.js` has asked for; its answer is null where none came. */
interface Ahead {
  path: string;
  answer: Promise<Response | null>;
}

const page = globalThis as { kachelAhead?: Ahead | undefined };

/** The answer that was asked for before the page's scripts were there, for the first who wants it; null where nothing was. */
export function takenAhead(path: string, init: RequestInit): Promise<Response | null> | null {
  const ahead = page.kachelAhead;
  if (ahead?.path !== path || (init.method ?? "GET") !== "GET") return null;
  page.kachelAhead = undefined;
  return ahead.answer;
}
