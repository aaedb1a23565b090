import type { LinkOf } from '@fadenkreuz/core';
import { rowOf, type LinkTable } from './linkTable.js';

type Own = LinkOf<'ethernet-ip'>;

interface EthernetIpRow {
  id: string;
  command_rpi: number;
  feedback_rpi: number;
  timeout_multiplier: Own['timeoutMultiplier'];
  to_controller: Own['toController'];
  trigger: Own['trigger'];
  command_format: Own['commandFormat'];
  feedback_format: Own['feedbackFormat'];
  configuration_instance: number;
  configuration_data: string;
}

export const ethernetIpTable: LinkTable<'ethernet-ip'> = {
  protocol: 'ethernet-ip',
  tables: ['link_ethernet_ip'],
  toRows: (link) => {
    const row: EthernetIpRow = {
      id: link.id,
      command_rpi: link.commandRpi,
      feedback_rpi: link.feedbackRpi,
      timeout_multiplier: link.timeoutMultiplier,
      to_controller: link.toController,
      trigger: link.trigger,
      command_format: link.commandFormat,
      feedback_format: link.feedbackFormat,
      configuration_instance: link.configuration.instance,
      configuration_data: link.configuration.data,
    };
    return { link_ethernet_ip: [row] };
  },
  fromRows: ({ link_ethernet_ip }) => {
    const of = rowOf<EthernetIpRow>(link_ethernet_ip);
    return (id) => {
      const row = of(id);
      return {
        commandRpi: row.command_rpi,
        feedbackRpi: row.feedback_rpi,
        timeoutMultiplier: row.timeout_multiplier,
        toController: row.to_controller,
        trigger: row.trigger,
        commandFormat: row.command_format,
        feedbackFormat: row.feedback_format,
        configuration: { instance: row.configuration_instance, data: row.configuration_data },
      };
    };
  },
};
