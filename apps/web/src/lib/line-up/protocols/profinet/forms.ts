import type { ProfinetLink } from '@fadenkreuz/core';
import type { ProtocolForms } from '../protocolForms.js';
import SlotList from './SlotList.svelte';

export const profinetForms: ProtocolForms<ProfinetLink> = { link: SlotList, instances: false };
