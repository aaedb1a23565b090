/** Key bindings of the desk, in the notation of tinykeys. */
export const deskKeys = {
  undo: '$mod+KeyZ',
  redo: '$mod+Shift+KeyZ',
  keys: 'Shift+?',
  find: '$mod+KeyK',
  otherPane: 'F6',
} as const;

/** Keys that belong to a text field stay there. */
export function editsText(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return !!target?.closest(
    'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [contenteditable]',
  );
}

/** What `?` shows. */
export const keyList: { keys: string; does: string }[] = [
  { keys: 'Ctrl K', does: 'find a device, field, address or command' },
  { keys: 'Ctrl Z', does: 'undo' },
  { keys: 'Ctrl Shift Z', does: 'redo' },
  { keys: '?', does: 'show or hide this list' },
  { keys: 'F6', does: 'from what is chosen to the lens, and back' },
  { keys: 'Alt ↑ ↓', does: 'Line-up: move the device up or down' },
  { keys: '← → ↑ ↓', does: 'Sight: move the crosshair by a bit or a row' },
  { keys: '0 – 9, %', does: 'Sight: type an address of either side to jump to' },
  { keys: 'Shift ← → ↑ ↓', does: 'Sight: move the field by a bit (a byte for whole types) or a row' },
  { keys: '+ −', does: 'Sight: make the field longer or shorter' },
  { keys: 'N', does: 'Sight: new field at the crosshair' },
  { keys: 'Enter', does: 'Sight: edit the field in the lens' },
  { keys: 'Del', does: 'Sight: remove the field' },
  { keys: 'Page ↑ ↓', does: 'Sight: move the crosshair by ten rows' },
  { keys: '=', does: 'Sight: what is this number?' },
  { keys: 'I', does: 'Sight: settings of the image, or the field again' },
  { keys: 'T D P', does: 'Sight: table, differences, byte map to print' },
  { keys: 'C F', does: 'Sight: show the command or the feedback image' },
  { keys: 'Esc', does: 'leave an entry without taking it over; close what is open' },
];
