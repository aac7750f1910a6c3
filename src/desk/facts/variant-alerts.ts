/** Findings by which engines are asked to stay away. */
export const AWAY: readonly string[] = [
  'reach.keeps-out-tag',
  'reach.keeps-out-header',
  'reach.keeps-out-robots',
];
/** The finding of a certificate that runs out soon. */
export const CERTIFICATE_ENDS = 'variants.certificate-ends';
/** Findings of variants that people are told of. */
export const TOLD_OF_VARIANTS: readonly string[] = [...AWAY, CERTIFICATE_ENDS];
