/** What the server refuses of a new password: told under its field. */
export const PASSWORD_REFUSALS = {
  'auth.weak_password': 'password',
  'auth.common_password': 'password',
  'auth.own_name_password': 'password',
} as const;
