/** Has the browser save a text as a file. */
export function saveText(name: string, text: string, type = 'text/csv'): void {
  const url = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The download has begun by then; the text need not be kept.
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
