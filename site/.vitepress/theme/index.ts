import theme from 'vitepress/theme';
import './style.css';

export default theme;
