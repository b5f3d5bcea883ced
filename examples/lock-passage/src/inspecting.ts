// A button at the end of a page that loads the inspector: nobody else pays for it.

const place = document.createElement('aside');
place.className = 'inner inspect';
place.setAttribute('aria-label', 'For developers');
const button = document.createElement('button');
button.type = 'button';
button.textContent = 'Inspect the form';
button.addEventListener('click', () => {
  void import('upper-gate/inspector').then(({ inspect }) => {
    inspect(undefined, { open: true });
    place.remove();
  });
});
place.append(button);
document.body.append(place);
