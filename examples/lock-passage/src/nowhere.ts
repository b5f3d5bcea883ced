// A page for whoever asks for one that does not exist.

import './style.css';
