/** What a mail says that brings a code. */
export interface CodeMail {
  readonly name: string;
  readonly from: string;
  readonly address: string;
  readonly code: string;
  /** Until when the code holds, ISO 8601. */
  readonly until: string;
  /** The person has a password already and is to choose a new one. */
  readonly again: boolean;
}

/** Plain text, as every mail program shows it. */
export function codeMail(mail: CodeMail): { subject: string; text: string } {
  const { name, from, address, code, until, again } = mail;
  const what = again
    ? `${from} has had a code made for you, by which you choose a new password.`
    : `${from} invites you to Clear Mark, where your work at the bench is scored.`;
  return {
    subject: again ? 'Your new password for Clear Mark' : 'Your place at Clear Mark',
    text: [
      `${name},`,
      what,
      `Open this address and choose a password:\n${address}`,
      `Or type this code where one signs in: ${code}`,
      `It can be used once, until ${until.slice(0, 16).replace('T', ' ')} UTC. If you did not expect this mail, do nothing.`,
    ].join('\n\n'),
  };
}
