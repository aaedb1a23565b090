/**
 * Names of fields as manuals write them, broken into words of one kind: `bRdy`, `SpdRef_01`, `Drehzahl-Sollwert`,
 * `CMD.FaultRst` become `ready`, `speed reference`, `speed reference`, `command fault reset`.
 */

/** Abbreviations and words of other languages, as makers use them; common practice, no source. */
const meanings: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries({
    acceleration: 'acc accel accelerate beschleunigung accelerazione acceleration',
    acknowledge:
      'ack ackn acknowledged acknowledgement acknowledgment quitt quittierung quittieren acquit rico',
    actual: 'act cur ist istwert fbk feedback real reale effettivo monitor mon',
    active: 'aktiv attivo actif activated',
    alarm: 'alm alarme allarme',
    analog: 'ana analogue ai ao analogeingang analogausgang',
    bit: 'bits',
    brake: 'brk bremse freno frein',
    busy: 'beschäftigt occupato occupe working',
    change: 'chg chng switch switchover wechsel umschaltung cambio select',
    changed: 'chgd switched gewechselt',
    clear: 'clr cancel löschen',
    close: 'zu schliessen',
    closed: 'geschlossen',
    code: 'cd no nr num number nummer numero id identifier',
    command: 'cmd cmnd ctrl ctl befehl comando commande',
    completed: 'cmpl compl complete finished finish fertig beendet finito termine',
    control: 'steuerung controllo',
    counter: 'cnt ctr count zähler contatore',
    current: 'curr amps amp ampere amperage strom corrente courant',
    cycle: 'cyc zyklus ciclo',
    data: 'daten dati',
    deceleration: 'dec decel decelerate verzögerung decelerazione',
    decimals: 'decimal decpt dp dezimalstellen kommastellen',
    direction: 'dir richtung drehrichtung direzione sens',
    disable: 'dis',
    done: 'dn erledigt fatto',
    drive: 'drv antrieb azionamento',
    emergency: 'emcy emerg nothalt notaus',
    enable: 'en ena enbl freigabe freig release abilitazione abilita validation',
    enabled: 'enbld freigegeben abilitato',
    error: 'err fehler errore erreur',
    external: 'ext',
    fail: 'ng nok nio failed bad schlecht ko notok reject',
    fault:
      'flt faulted flts fehl trip tripped störung stoerung guasto defaut défaut sammelstörung fehlerhaft',
    format: 'fmt layout template vorlage',
    forward: 'fwd fw vorwärts vorwaerts rechts rechtslauf avanti avant cw',
    frequency: 'freq frq frequenz frequenza',
    gross: 'brutto lordo brut grs grosswt',
    heartbeat: 'hb life lifebit lifesign alive watchdog wd lebenszeichen',
    hold: 'pause feedhold anhalten',
    home: 'hm homing referenzfahrt referenzieren',
    homed: 'referenced referenziert homedone homingdone',
    input: 'in inp di eingang ingresso entree',
    inspection: 'insp prüfung pruefung',
    jog: 'jg tipp tippen tippbetrieb inch inching',
    load: 'ld last carico charge',
    loss: 'lost',
    message: 'msg meldung',
    mode: 'md betriebsart modo modus opmode',
    moving: 'mvg inmotion motion bewegung fährt',
    negative: 'neg minus',
    net: 'netto nt netwt',
    network: 'nw fieldbus bus feldbus remote netz comm',
    operation: 'op oper betrieb funzionamento',
    output: 'out outp do ausgang uscita sortie',
    overload: 'ovld ol überlast ueberlast sovraccarico surcharge',
    overrange: 'overflow ovr üb overrng',
    part: 'prt teil workpiece product werkstück werkstueck pezzo piece',
    pass: 'gut good okresult accept passed',
    permissive: 'perm interlock verriegelung consenso',
    position: 'pos posn lage positioniersatz posizione',
    power: 'pwr spannung supply versorgung alimentazione',
    present: 'prsnt detected vorhanden presente',
    print: 'prn drucken stampa imprimer',
    printed: 'prnd printdone gedruckt stampato',
    program: 'prog prg prgm pgm job programm programma programme rezept task',
    quality: 'qual',
    quick: 'qk schnell schnellhalt rapid',
    ready: 'rdy bereit betriebsbereit pronto pret readiness',
    reached: 'reachd erreicht raggiunta raggiunto atteint',
    reference: 'ref rfr setpt setpoint sp soll sollwert set riferimento consigne vorgabe demand',
    request: 'req rq anforderung richiesta demande',
    reset: 'rst res rücksetzen ruecksetzen zurücksetzen ripristino reinit',
    result: 'rslt ergebnis risultato resultat',
    reverse: 'rev rw rückwärts rueckwaerts links linkslauf indietro arriere ccw backward bwd',
    running: 'läuft laeuft dreht marcia',
    safety: 'safe sicherheit sto sicher sicurezza securite',
    sensor: 'sens fühler geber',
    sequence: 'seq folge sequenz sequenza lfd',
    speed: 'spd drehzahl geschwindigkeit velocità velocita vitesse rpm',
    stable: 'stbl stability ruhe stabile motionless',
    start: 'strt starten go avvio demarrage ein einschalten',
    status: 'sts stat sta zustand stato etat',
    stop: 'stp halt stopp arresto arret aus',
    strobe: 'stb uebernahme übernahme latch',
    tare: 'tara tarieren tarewt',
    target: 'ziel tgt zielposition',
    temperature: 'temp tmp temperatur temperatura',
    text: 'txt string str zeichenkette testo texte',
    torque: 'trq tq moment drehmoment coppia couple',
    trigger: 'trg trig trigg auslösung ausloesung scatto declenchement acquire',
    valid: 'vld gültig gueltig valido valide',
    value: 'val wert valore valeur',
    velocity: 'vel profilgeschwindigkeit profilevelocity',
    warning: 'wrn warn warng warnung avviso avertissement',
    weight: 'wt gewicht peso poids',
    word: 'wrd wort parola mot',
    zero: 'zr null nullstellen nullen azzera',
  }).flatMap(([meaning, words]) => [meaning, ...words.split(' ')].map((word) => [word, meaning])),
);

/** Kinds of value that some put before a name, as `bReady` and `nSpeed`; common practice, no source. */
const hungarian = /^(b|x|n|i|w|dw|di|ui|r|f|u|s|str|by)(?=[A-Z][a-z])/;

/** Words that mean something else together; common practice, no source. */
const phrases: readonly [RegExp, string][] = [
  [/\b(in|at|on) (pos|position|target)\b/, 'target reached'],
  [/\b(at|up to) (speed|spd|freq|frequency|ref|reference|setpoint)\b/, 'speed reached'],
  [/\bset ?(point|pt)\b/, 'reference'],
  [/\b(in|into) (motion|operation)\b/, 'running'],
  [/\bnot ?(aus|halt)\b/, 'emergency stop'],
  [/\be ?(stop|stp)\b/, 'emergency stop'],
  [/\bswitched? on\b/, 'switch on'],
  [/\bload ?(power|supply|voltage)\b/, 'load power'],
  [/\bno (fault|error|alarm)\b/, 'healthy'],
  [/\bnot (ready|running|valid|ok)\b/, 'inverted'],
];

/** The words of a name, each as its meaning, in their order; numbers stand by themselves. */
export function wordsOf(name: string): string[] {
  const plain = spelled(name).split(' ').filter(Boolean);
  return plain.flatMap((word) => parts(word)).map((word) => meanings[word] ?? word);
}

/** A name in small letters with a blank between its words, and phrases as what they mean. */
function spelled(name: string): string {
  const plain = name
    .normalize('NFC')
    .split(/[^\p{L}\p{N}]+/u)
    .flatMap((part) =>
      part
        .replace(hungarian, '')
        .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
        .replace(/(\p{Lu}+)(\p{Lu}\p{Ll})/gu, '$1 $2')
        .replace(/(\p{L})(\p{N})/gu, '$1 $2')
        .replace(/(\p{N})(\p{L})/gu, '$1 $2')
        .toLowerCase()
        .split(' '),
    )
    .filter(Boolean)
    .join(' ');
  return phrases.reduce((text, [pattern, means]) => text.replace(pattern, means), plain);
}

/** Words that are written as one, as German does: `drehzahlsollwert` is `drehzahl sollwert`. */
function parts(word: string): string[] {
  if (word.length < 9 || meanings[word]) return [word];
  for (let cut = word.length - 3; cut >= 3; cut -= 1) {
    const [head, tail] = [word.slice(0, cut), word.slice(cut)];
    if (meanings[head] && meanings[tail]) return [head, tail];
    // A joint: Betriebs-art, Freigabe-s-ignal.
    if (meanings[head] && tail.startsWith('s') && meanings[tail.slice(1)]) return [head, tail.slice(1)];
  }
  return [word];
}
