/** Saves a file that the page holds. */
export function saveFile(bytes: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(bytes);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
