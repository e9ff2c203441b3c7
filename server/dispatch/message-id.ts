/**
 * A Message-ID, in SQL: whose it is and which time in hand, which it is known by when it comes back, and 64 bits that
 * follow from the key alone, so that knowing it proves to know the message. Each time in hand has one of its own, and the
 * same time always the same, so that a rehearsal has it already.
 */
export const messageIdSql = (of: {
  dispatch: string;
  contact: string;
  claim: string;
  domain: string;
  secret: string;
}): string => {
  const whose = `${of.dispatch} || '.' || ${of.contact} || '.' || ${of.claim}`;
  const bits = `left(encode(sha256(convert_to(${of.secret} || ' message ' || ${whose}, 'UTF8')), 'hex'), 16)`;
  return `${whose} || '.' || ${bits} || '@' || ${of.domain}`;
};
