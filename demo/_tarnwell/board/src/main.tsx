import { createRoot } from 'react-dom/client';
import { App } from './app';
import { Client } from './api';

const element = document.getElementById('board');
if (element) {
  createRoot(element).render(<App client={new Client('http://localhost:8470')} />);
}
