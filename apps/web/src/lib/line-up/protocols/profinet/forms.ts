import { stationNameOf, type ProfinetLink } from '@fadenkreuz/core';
import type { ProtocolForms } from '../protocolForms.js';
import SlotList from './SlotList.svelte';

export const profinetForms: ProtocolForms<ProfinetLink> = {
  link: SlotList,
  instances: false,
  nameOnTheWire: {
    title: 'station name',
    says: 'what the controller finds it by: labels of small letters, digits and hyphens',
    of: stationNameOf,
  },
};
