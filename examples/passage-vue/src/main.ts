import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { createApp } from 'vue';
import Booking from './Booking.vue';

createApp(Booking).mount('#app');
