/** Gives a text to the browser as a file of that name. */
export function saveFile(text: string, type: string, name: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
