/** A table in Markdown; a bar or a line end in a cell does not break it. */
export function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const cell = (text: string) =>
    text
      .replaceAll('\\', '\\\\')
      .replaceAll('|', '\\|')
      .replaceAll(/\s*\n\s*/g, ' ');
  const line = (cells: readonly string[]) => `| ${cells.map(cell).join(' | ')} |`;
  return [line(head), line(head.map(() => '---')), ...rows.map(line)].join('\n');
}
