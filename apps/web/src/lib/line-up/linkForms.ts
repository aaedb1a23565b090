import type { Link, LinkOf } from '@fadenkreuz/core';
import type { Component } from 'svelte';
import BlocksForm from './BlocksForm.svelte';
import OpeningForm from './OpeningForm.svelte';
import SlotList from './SlotList.svelte';

/** The form of what the links of one protocol alone have; a protocol without one is set up by its images. */
const linkForms: { [P in Link['protocol']]?: Component<{ link: LinkOf<P> }> } = {
  'ethernet-ip': OpeningForm,
  'modbus-tcp': BlocksForm,
  profinet: SlotList,
};

/** The form for what this link has of its protocol alone. */
export const formFor = (link: Link): Component<{ link: Link }> | undefined =>
  linkForms[link.protocol] as Component<{ link: Link }> | undefined;
