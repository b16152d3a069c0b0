/** What the screen says that asks for the password of an installation. */
export const enterWords = {
  title: 'Bright Reel',
  label: 'Password',
  enter: 'Enter',
  hint: 'Whoever runs this installation knows it.',
  leave: 'Sign out',
};
