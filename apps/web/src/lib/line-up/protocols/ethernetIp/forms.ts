import type { EthernetIpLink } from '@fadenkreuz/core';
import { byHand, type ProtocolForms } from '../protocolForms.js';
import ByHandForm from './ByHandForm.svelte';
import { initial, linkFrom } from './fromManual.js';
import OpeningForm from './OpeningForm.svelte';

export const ethernetIpForms: ProtocolForms<EthernetIpLink> = {
  link: OpeningForm,
  instances: true,
  byHand: byHand({ initial, form: ByHandForm, link: linkFrom }),
};
