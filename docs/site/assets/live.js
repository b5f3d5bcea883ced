// Recipes that run where they are read: each in a frame, which is loaded when somebody scrolls there. Without script, there is the code alone.

const root = new URL('../live/', import.meta.url);

/** Has a frame be as high as what is in it, whichever of the recipe's pages that is. */
function fit(frame) {
  const inside = frame.contentDocument.documentElement;
  new ResizeObserver(() => (frame.style.height = `${Math.ceil(inside.getBoundingClientRect().height) + 2}px`)).observe(inside);
}

function run(place) {
  const { live, title } = place.dataset;
  const frame = document.createElement('iframe');
  frame.title = `Try it: ${title}`;
  frame.src = new URL(`${live}.html`, root);
  frame.addEventListener('load', () => fit(frame));
  place.append(frame);
}

const observer = new IntersectionObserver(
  (entries) => {
    for (const { isIntersecting, target } of entries) {
      if (!isIntersecting) continue;
      observer.unobserve(target);
      run(target);
    }
  },
  { rootMargin: '200px' },
);
for (const place of document.querySelectorAll('[data-live]')) observer.observe(place);
