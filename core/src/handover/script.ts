/** The only script of a page as a file: a mark that is pressed opens its reckoning. Its hash stands in the file's security policy. */
export const PAGE_SCRIPT = `const all=JSON.parse(document.getElementById('reckonings').textContent);const side=document.getElementById('reckoning');const put=(tag,text,into)=>{const one=document.createElement(tag);one.textContent=text;into.append(one);return one};const open=(mark)=>{const found=all[mark.dataset.r];if(!found)return;side.replaceChildren();put('h2',found.t,side);const list=put('ol','',side);for(const [text,sum] of found.s){const item=put('li',text,list);if(sum)put('small',sum,item)}const close=put('button','Close',side);close.onclick=()=>{side.hidden=true;mark.focus()};side.hidden=false;close.focus()};for(const mark of document.querySelectorAll('[data-r]')){mark.setAttribute('role','button');mark.tabIndex=0;mark.onclick=()=>open(mark);mark.onkeydown=(event)=>{if(event.key==='Enter'||event.key===' '){event.preventDefault();open(mark)}}}addEventListener('keydown',(event)=>{if(event.key==='Escape')side.hidden=true});`;

/** Base64 of the script's SHA-256. */
export const PAGE_SCRIPT_HASH = 'IRTjpwEsMSAeUt1bhIhqPTVZ1rYOBxCg8zdDOfvjacA=';

/**
 * The only other script, of a page whose reader can choose: it unpacks the tables and the program that the file carries, and starts that
 * one. The streams of the tables are then called `carriedTables`.
 */
export const LOADER_SCRIPT = `const bytesOf=(t)=>{const n=t.length,b=new Uint8Array((13*(n>>1)+6*(n&1))>>3);const d=(i)=>{const c=t.charCodeAt(i);return c-35-(c>60)};let v=0,k=0,o=0;for(let i=0;i<n;i+=2){const two=i+1<n;v|=(two?d(i)+91*d(i+1):d(i))<<k;for(k+=two?13:6;k>7&&o<b.length;k-=8){b[o++]=v;v>>>=8}}return b};const streamsOf=(id)=>{const b=bytesOf(document.getElementById(id).textContent),v=new DataView(b.buffer),n=v.getUint32(0);let at=4+4*n;return Promise.all(Array.from({length:n},(_,i)=>{const from=at;at+=v.getUint32(4+4*i);return new Response(new Blob([b.subarray(from,at)]).stream().pipeThrough(new DecompressionStream('deflate-raw'))).arrayBuffer()}))};let carriedTables;for(const mark of document.querySelectorAll('[data-r]')){mark.setAttribute('role','button');mark.tabIndex=0}Promise.all([streamsOf('tables'),streamsOf('program')]).then(([tables,[program]])=>{carriedTables=tables;const script=document.createElement('script');script.textContent=new TextDecoder().decode(program);document.body.append(script)});`;

/** Base64 of the loader's SHA-256. */
export const LOADER_SCRIPT_HASH = 'qetoB6vfIIbiTkyVqcrlNQUmptZwLlcHcNK8GOLAXuU=';
