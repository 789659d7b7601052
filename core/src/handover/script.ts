/** The only script of a page as a file: a mark that is pressed opens its reckoning. Its hash stands in the file's security policy. */
export const PAGE_SCRIPT = `const all=JSON.parse(document.getElementById('reckonings').textContent);const side=document.getElementById('reckoning');const put=(tag,text,into)=>{const one=document.createElement(tag);one.textContent=text;into.append(one);return one};const open=(mark)=>{const found=all[mark.dataset.r];if(!found)return;side.replaceChildren();put('h2',found.t,side);const list=put('ol','',side);for(const [text,sum] of found.s){const item=put('li',text,list);if(sum)put('small',sum,item)}const close=put('button','Close',side);close.onclick=()=>{side.hidden=true;mark.focus()};side.hidden=false;close.focus()};for(const mark of document.querySelectorAll('[data-r]')){mark.setAttribute('role','button');mark.tabIndex=0;mark.onclick=()=>open(mark);mark.onkeydown=(event)=>{if(event.key==='Enter'||event.key===' '){event.preventDefault();open(mark)}}}addEventListener('keydown',(event)=>{if(event.key==='Escape')side.hidden=true});`;

/** Base64 of the script's SHA-256. */
export const PAGE_SCRIPT_HASH = 'IRTjpwEsMSAeUt1bhIhqPTVZ1rYOBxCg8zdDOfvjacA=';

/** The only other script, of a page whose reader can choose: it unpacks the program that the file carries and starts it. */
export const LOADER_SCRIPT = `const bytesOf=(t)=>{const b=new Uint8Array(Math.floor(t.length*4/5));for(let i=0,o=0;i<t.length;i+=5){let v=0;for(let k=0;k<5;k++){const c=i+k<t.length?t.charCodeAt(i+k):120;v=v*85+c-35-(c>60?1:0)}for(let k=3;k>=0&&o<b.length;k--)b[o++]=Math.floor(v/256**k)%256}return b};const unpacked=async(id)=>new Response(new Blob([bytesOf(document.getElementById(id).textContent)]).stream().pipeThrough(new DecompressionStream('gzip'))).text();for(const mark of document.querySelectorAll('[data-r]')){mark.setAttribute('role','button');mark.tabIndex=0}unpacked('program').then((text)=>{const script=document.createElement('script');script.textContent=text;document.body.append(script)});`;

/** Base64 of the loader's SHA-256. */
export const LOADER_SCRIPT_HASH = 'byb4Unxim6uZOtUyRX3usq7UTETFanYlv3xCdBHbhBM=';
