/** What the canvas adds to the email: values of the reader, places that wait, text being edited. */
export const CANVAS_CSS = `
:host{all:initial;display:block}
.canvas{container-type:inline-size;min-height:120px;-webkit-font-smoothing:antialiased}
.canvas>.section{contain:layout}
.canvas table{text-indent:0}
.canvas [data-node]{cursor:default}
.canvas a{cursor:default}
.reader-value{background:#7FD3CC38;border-radius:3px;padding:0 3px;margin:0 -3px;box-shadow:inset 0 -2px 0 #0B6E69}
[data-conditional]{box-shadow:-6px 0 0 -3px #0B6E69}
.waiting{padding:18px 12px;border:1.5px dashed #8D8797;border-radius:6px;color:#5B5664;background:#F6F5F8;font:500 13px/20px "Hanken Grotesk Variable",system-ui,sans-serif;text-align:center}
.waiting .choose{display:inline-block;padding:6px 12px;border:1px solid #8D8797;border-radius:6px;background:#FFFFFF;cursor:pointer}
.waiting .choose:hover{border-color:#7D2248;color:#7D2248}
.waiting.live{border-color:#0B6E69;color:#0B6E69;background:#E3F3F1}
[data-edit] .ProseMirror{outline:none;white-space:pre-wrap;overflow-wrap:break-word;cursor:text;min-width:1ch}
[data-edit] .ProseMirror p{margin:0 0 var(--gap,0px)}
[data-edit] .ProseMirror ul,[data-edit] .ProseMirror ol{margin:0 0 var(--gap,0px);padding:0 0 0 24px}
[data-edit] .ProseMirror li{margin:0 0 4px}
[data-edit] .ProseMirror li p{margin:0}
[data-edit] .ProseMirror>*:last-child{margin-bottom:0}
[data-edit] .ProseMirror a{color:var(--link);text-decoration:var(--link-text-decoration);font-weight:var(--link-font-weight)}
[data-edit] .ProseMirror .ProseMirror-selectednode{outline:2px solid #7D2248}
[data-edit] .ProseMirror-separator{display:inline!important;width:0!important;height:0!important}
`;
