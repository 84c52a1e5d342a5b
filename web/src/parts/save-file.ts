/** Hands a file to the reader: text of a type, or what a data address holds. */
export function saveFile(name: string, content: string, type?: string): void {
  const link = document.createElement('a');
  const url = type ? URL.createObjectURL(new Blob([content], { type: `${type};charset=utf-8` })) : content;
  link.href = url;
  link.download = name;
  link.click();
  if (type) setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
