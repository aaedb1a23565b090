import type { NamedSignals } from './testNames.js';

/** Names of sensors, weighers and readers, made up for the tests of the proposals. */
export const sensorSignals: readonly NamedSignals[] = [
  {
    kind: 'vision sensor',
    direction: 'command',
    reads: 'bit',
    names: {
      trigger: 'Trigger; trg; bTrigger; TriggerCmd; start inspection; Auslösung; trig_req trigger; acquire',
      'result acknowledge': 'Result acknowledge; ResultAck; res ack result; Ergebnis quittieren',
      'program change': 'Change program; prog_change; JobChange; Programmwechsel; program switch',
      'fault reset': 'Error reset; err_clear; clear error; Fehler quittieren',
      '-': 'Light on; live image; buffer flush; teach; offline; save image; strobe lamp colour',
    },
  },
  {
    kind: 'vision sensor',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'trigger ready': 'Trigger ready; trg_rdy; TriggerReady; ready for trigger',
      'trigger acknowledge': 'Trigger acknowledge; TriggerAck; trg_ack',
      busy: 'Busy; bBusy; inspection busy; sys_busy; processing; occupato',
      'result valid':
        'Result valid; ResultValid; data valid; results available; Ergebnis gültig; inspection complete; result_ready',
      pass: 'Pass; OK; result_ok; overall ok; Gut; inspection_pass inspection ok',
      fail: 'Fail; NG; NOK; result_ng; Schlecht; inspection fail',
      'program changed': 'Program changed; job change done; ProgChangeAck; program change complete',
      faulted: 'Error; fault; Fehler; bErr; alarm',
      ready: 'Ready; rdy; system ready; Bereit; online ready',
      '-': 'Exposure running lamp; buffer full; missed; user bit 3; focus drift; lens dirty',
    },
  },
  {
    kind: 'vision sensor',
    direction: 'feedback',
    reads: 'number',
    names: {
      'program shown':
        'Current program number; active_job; ActualProgram; Programmnummer; job_no; program no',
      'fault code': 'Error code; err_no; ErrorCode; Fehlernummer',
      'result length': 'Result length; data_len data length; text length; code length',
      '-': 'Exposure time; contrast; blob area; inspection counter total; score threshold; focus',
    },
  },
  {
    kind: 'weigher',
    direction: 'feedback',
    reads: 'number',
    unit: 'kg',
    names: {
      gross: 'Gross; gross_weight; Brutto; GrossWt; Bruttogewicht; lordo',
      net: 'Net weight; net; Netto; NetWt; Nettogewicht; netto_value',
      'tare value': 'Tare value; tare_weight; Taragewicht; preset tare; TareWt tare weight',
    },
  },
  {
    kind: 'weigher',
    direction: 'feedback',
    reads: 'bit',
    names: {
      stable: 'Stable; stability; weight_stable; Stillstand stable; bStable; stabile',
      sign: 'Sign; negative; minus; sign_bit; net negative sign',
      overrange: 'Overrange; overflow; over range overrange; Überlast overrange',
      faulted: 'Error; fault; Fehler; ADC error',
      '-': 'Center of zero window; unit is pounds; printing; key pressed; range 2; filter on',
    },
  },
  {
    kind: 'weigher',
    direction: 'command',
    reads: 'bit',
    names: {
      tare: 'Tare; tare_cmd; Tarieren; bTare; set tare; TareReq',
      zero: 'Zero; zero_cmd; Nullstellen; bZero; set zero',
      '-': 'Gross mode; key lock; backlight; channel two; test weight; filter select lamp',
    },
  },
  {
    kind: 'identification reader',
    direction: 'command',
    reads: 'bit',
    names: {
      trigger: 'Trigger; read trigger; trigger read; start trigger; Auslösung',
      enable: 'Enable; antenna enable; Freigabe; read enable',
      'result acknowledge': 'Result acknowledge; data acknowledge; result ack; Ergebnis quittieren',
      'fault reset': 'Fault reset; clear error; error reset; Fehler quittieren',
      '-': 'Lamp green; beep; power high flag; write protect',
    },
  },
  {
    kind: 'identification reader',
    direction: 'command',
    reads: 'number',
    names: {
      'command code': 'Command code; command; function code; request code; Befehl',
      'sequence number': 'Sequence number; sequence; seq no',
      '-': 'Antenna gain; block address; retries; user memory bank',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'bit',
    names: {
      'result valid': 'Result valid; data valid; read complete; data ready; Ergebnis gültig; read completed',
      busy: 'Busy; reading busy; beschäftigt; processing',
      fail: 'No read; read fail; fail',
      'trigger ready': 'Trigger ready; ready for trigger',
      'part present': 'Tag present; part present; tag detected part present',
      faulted: 'Fault; error; Störung; head error',
      ready: 'Ready; reader ready; Bereit',
      '-': 'Antenna detuned; user lamp; noise; buffer level half',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'number',
    names: {
      'result length': 'Result length; data length; code length; length',
      'command answer': 'Command answer; answer; response code; command response; Antwort',
      'fault code': 'Fault code; error code; error number; Fehlernummer',
      '-': 'Signal level dB; antenna current share; reads today; hardware id',
    },
  },
  {
    kind: 'identification reader',
    direction: 'feedback',
    reads: 'text',
    names: { 'result text': 'Read data; code text; result text; result string; code data; text' },
  },
  {
    kind: 'measuring sensor',
    direction: 'command',
    reads: 'bit',
    names: {
      zero: 'Zero; set zero; zero command; Nullstellen; zero request',
      trigger: 'Trigger; measurement trigger; Auslösung',
      '-': 'Laser off; filter slow; teach window; display flip; keypad locked',
    },
  },
  {
    kind: 'measuring sensor',
    direction: 'feedback',
    reads: 'number',
    names: {
      'measured value':
        'Measured value; measurement value; distance; level; pressure; temperature; process value; Messwert; value; measurement',
      'fault code': 'Fault code; error code; error number; Fehlernummer',
      'life counter': 'Life counter; alive counter; heartbeat counter',
      '-': 'Signal intensity; laser hours; housing serial; averaging depth; gain step',
    },
  },
  {
    kind: 'measuring sensor',
    direction: 'feedback',
    reads: 'bit',
    names: {
      overrange: 'Overrange; overflow; range exceeded; measurement overrange',
      'result valid': 'Data valid; measurement valid; result valid; data ready',
      ready: 'Ready; sensor ready; Bereit; rdy',
      faulted: 'Fault; error; sensor fault; Störung',
      warning: 'Warning; Warnung',
      stable: 'Stable; stability; Ruhe',
      input: 'Input 1; DI 2; Eingang 1',
      '-': 'Dirty lens; laser on; teach running; window A; key lock',
    },
  },
];
