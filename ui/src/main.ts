import '@fontsource/ibm-plex-sans/latin-400.css'
import '@fontsource/ibm-plex-sans/latin-600.css'
import 'carbon-components-svelte/css/all.css'
import './style/tokens.css'
import './style/house.css'
import './style/drawings.css'
import './style/circuit.css'
import './style/carbon.css'
import './style/log.css'
import './style/narrow.css'
import './style/media.css'
import { mount } from 'svelte'
import App from './App.svelte'
import { look } from './lib/state/studio.svelte'

look.start()
mount(App, { target: document.getElementById('app')! })
