/** A link as a code that phones read (ISO/IEC 18004), and as words. */
import qrcode from 'qrcode-generator';

function QrPicture({ text }: { text: string }) {
  const code = qrcode(0, 'M');
  code.addData(text);
  code.make();
  const n = code.getModuleCount();
  let path = '';
  for (let y = 0; y < n; y += 1) for (let x = 0; x < n; x += 1) if (code.isDark(y, x)) path += `M${x},${y}h1v1h-1z`;
  return (
    <svg viewBox={`-4 -4 ${n + 8} ${n + 8}`} className="mx-auto w-72 bg-white" role="img" aria-label="Code of the link, to be photographed">
      <path d={path} fill="#000" />
    </svg>
  );
}

export const LinkCode = ({ link }: { link: string }) => (
  <>
    <QrPicture text={link} />
    <p className="figures mt-2 text-[13px] break-all select-all">{link}</p>
  </>
);
