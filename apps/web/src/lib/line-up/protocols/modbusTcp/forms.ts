import type { ModbusTcpLink } from '@fadenkreuz/core';
import { byHand, type ProtocolForms } from '../protocolForms.js';
import BlocksForm from './BlocksForm.svelte';
import ByHandForm from './ByHandForm.svelte';
import { initial, linkFrom } from './fromManual.js';

export const modbusTcpForms: ProtocolForms<ModbusTcpLink> = {
  link: BlocksForm,
  instances: false,
  countedIn: 'the poll time',
  byHand: byHand({ initial, form: ByHandForm, link: linkFrom }),
};
