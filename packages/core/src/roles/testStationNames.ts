import type { NamedSignals } from './testNames.js';

/** Names of stations of inputs and outputs, safety controllers and markers, made up for the tests of the proposals. */
export const stationSignals: readonly NamedSignals[] = [
  {
    kind: 'safety controller',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'emergency stop': 'Emergency stop; E-Stop active; Not-Halt; emergency stop pressed',
      muted: 'Muted; muting active; muting',
      'safety in order': 'Safety OK; safety in order; safety circuit closed',
      faulted: 'Fault; error; Sammelstörung; device fault',
      input: 'DI 1; Input 3; digital input 8; Eingang 5',
      '-': 'Lamp test; window dirty; cascade; maintenance due; key removed',
    },
  },
  {
    kind: 'safety controller',
    direction: 'feedback',
    reads: 'number',
    names: {
      'object size': 'Object size; object height; object length',
      'object position': 'Object position; lowest beam; first beam; object lowest beam',
      'fault code': 'Fault code; error number; diagnostic code fault code',
      'life counter': 'Life counter; alive counter; heartbeat counter',
      '-': 'Response time; firmware checksum; hours of use; scan width; cascade length',
    },
  },
  {
    kind: 'safety controller',
    direction: 'command',
    reads: 'bit',
    names: {
      'safety reset': 'Safety reset; reset safety; safety acknowledge',
      '-': 'Lamp test; standby; display on; log clear flag',
    },
  },
  {
    kind: 'valve terminal',
    direction: 'command',
    reads: 'bit',
    names: {
      output: 'Output 1; Out 7; DO 12; valve 3; coil 4; solenoid 2; Ausgang 9; Ventil 5; Out_15',
      'load power': 'Load power; load supply',
      '-': 'Blow off time; lamp green; display dim; service mode; counter clear flag',
    },
  },
  {
    kind: 'valve terminal',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 4; In 8; Eingang 2; Input_11; digital input 6',
      'load power': 'Load power; load supply; load voltage',
      overload: 'Overload; Überlast; coil overload',
      faulted: 'Fault; error; Sammelstörung; module fault',
      '-': 'Air quality; manual override used; leak; humidity high; first cycle',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'bit',
    names: {
      print: 'Print; print command; start print; Drucken; print request',
      'fault reset': 'Fault reset; clear error; error reset; Fehler quittieren',
      '-': 'Jet clean; lamp test; pause belt lamp; open drawer; test pattern',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'number',
    names: {
      'format number': 'Format number; layout number; template number; format; Vorlage Nummer',
      'sequence number': 'Sequence number; sequence; seq no; Sequenznummer',
      copies: 'Copies',
      '-': 'contrast; print delay; darkness; ribbon saver',
    },
  },
  {
    kind: 'marker',
    direction: 'command',
    reads: 'text',
    names: {
      'variable text': 'Variable text; variable 1 text; text; batch text; text 1; print text',
    },
  },
  {
    kind: 'marker',
    direction: 'feedback',
    reads: 'bit',
    names: {
      printed: 'Printed; print done; label printed; gedruckt; print completed',
      busy: 'Busy; printing busy; beschäftigt; working',
      ready: 'Ready; printer ready; Bereit; pronto',
      faulted: 'Fault; error; Störung; printer error; alarm',
      warning: 'Warning; Warnung; warn',
      'door open': 'cover open',
      '-': 'Ribbon short; head worn; ink low; paper end',
    },
  },
  {
    kind: 'marker',
    direction: 'feedback',
    reads: 'number',
    names: {
      'fault code': 'Fault code; error number; error code; Fehlernummer',
      'sequence number': 'Sequence number; printed sequence; seq no',
      '-': 'Labels on roll; head temperature; kilometres of ribbon; jobs today',
    },
  },
  {
    kind: 'process I/O',
    direction: 'command',
    reads: 'bit',
    names: {
      output: 'Output 1; DO 2; relay output 3; digital output 4; Ausgang 5; Out 6',
      '-': 'Calibration open; filter fast; burnout test; display hold flag',
    },
  },
  {
    kind: 'process I/O',
    direction: 'command',
    reads: 'number',
    names: {
      'analogue output': 'Analog output 1; AO 2; analogue output 3; Analogausgang 4; analog out 2',
      'filter time': 'Filter time',
      '-': 'span; dead band; sampling',
    },
  },
  {
    kind: 'process I/O',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 2; digital input 3; Eingang 4; In 5',
      faulted: 'Fault; error; Störung; module error; Sammelstörung',
      overrange: 'Overrange; over range overrange; measurement overrange',
      '-': 'Calibration due; cold junction; simulation on; burnout direction up',
    },
  },
  {
    kind: 'process I/O',
    direction: 'feedback',
    reads: 'number',
    names: {
      'analogue input': 'Analog input 1; AI 2; analogue input 3; Analogeingang 4; analog in 5',
      'measured value': 'Measured value; temperature; pressure; level; process value',
      '-': 'Module serial; filter order; sampling jitter; cold junction offset',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'command',
    reads: 'bit',
    names: {
      'load power': 'Load power 1; load supply 2; port 3 load power; load voltage 4',
      output: 'Output 1; DO 2; digital output 3; Out 4; Ausgang 2',
      '-': 'Locate lamp; backup enable flag; log freeze; webserver lock',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'command',
    reads: 'number',
    names: {
      'port mode': 'Port mode 1; port 2 mode; mode port 3; Port 4 Modus',
      '-': 'Cycle stretch; storage behaviour; device checksum wish; vendor wish',
    },
  },
  {
    kind: 'IO-Link master',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'port valid': 'Port valid 1; port 2 valid; port 3 data valid; PD valid 4',
      'load power': 'Load power 1; port 2 load power; load voltage 3; load supply 4',
      input: 'DI 1; Input 2; digital input 3; Eingang 4',
      faulted: 'Fault; error; Sammelstörung; master error',
      '-': 'Device mismatch; event pending flag; storage full; locate lamp',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'command',
    reads: 'bit',
    names: {
      output:
        'Output 1; DO 0; Out 15; digital output 4; Ausgang 7; Output_12; DO_3; relay output 2; uscita 5; DOut 6',
      'load power': 'Load power; load supply',
      heartbeat: 'Heartbeat; life bit; Lebenszeichen',
      '-': 'Locate lamp; web lock; reserved; retain memory; simulation flag',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'command',
    reads: 'number',
    names: {
      'analogue output': 'AO 1; analog output 0; analogue out 3; Analogausgang 2',
      '-': 'Filter constant; substitute policy; refresh divider; reserved word',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'feedback',
    reads: 'bit',
    names: {
      input: 'Input 1; DI 0; In 15; digital input 4; Eingang 7; Input_12; DI_3; ingresso 5; Inp 6',
      'load power': 'Load power; load supply; load voltage',
      overload: 'Overload; output overload; Überlast',
      faulted: 'Fault; error; Sammelstörung; module error',
      warning: 'Warning; Warnung',
      '-': 'Locate lamp; web lock; firmware new; slot 3 empty; reserved',
    },
  },
  {
    kind: 'remote I/O',
    direction: 'feedback',
    reads: 'number',
    names: {
      'analogue input': 'AI 1; analog input 0; analogue in 3; Analogeingang 2; ana in 4',
      'fault code': 'Fault code; error number; Fehlernummer',
      '-': 'Module count; temperature inside; bus utilization; reserved word',
    },
  },
];
