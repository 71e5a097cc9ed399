/** The decimal sign of a language: digits stay those that fields and files read. */
export function decimalOf(language: string): "." | "," {
  const parts = new Intl.NumberFormat(language).formatToParts(1.5);
  return parts.some((p) => p.type === "decimal" && p.value === ",") ? "," : ".";
}

const DECIMAL = decimalOf(navigator.language);

/** A written number with the decimal sign of the browser's language. */
export const local = (number: string, decimal = DECIMAL): string => number.replace(".", decimal);

/** A number with so many decimals. */
export const fixed = (value: number, digits: number): string => local(value.toFixed(digits));

/** A sentence of the core, whose numbers have points; versions and file names such as 1.2.3 or a1.5 are left alone. */
export function said(sentence: string, decimal = DECIMAL): string {
  return decimal === "."
    ? sentence
    : sentence.replace(/(?<![\w.])(\d+)\.(\d+)(?![\w.]*\w)/g, `$1${decimal}$2`);
}

/** A day and the time of day, as the browser's language writes them. */
export const when = (iso: string | Date): string =>
  new Date(iso).toLocaleString(navigator.language, { dateStyle: "medium", timeStyle: "short" });

/** The time of day. */
export const timeOfDay = (iso: string): string =>
  new Date(iso).toLocaleTimeString(navigator.language, { hour: "numeric", minute: "2-digit" });
