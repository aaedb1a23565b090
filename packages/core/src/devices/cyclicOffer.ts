/**
 * What most kinds of device offer: class 1 connections with the run/idle header before commands, and modeless feedback
 * (CIP Vol. 1, 3-6.1).
 */
export const cyclicOffer = {
  protocol: 'ethernet-ip',
  cyclic: true,
  commandFormat: 'run-idle',
  feedbackFormat: 'modeless',
} as const;
