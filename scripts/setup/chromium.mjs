// Debian's Chromium for tests and pictures: no sandbox (it may run as root), no calls home, 3D in software,
// pages without it.
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--disable-gpu-rasterization',
    '--disable-gpu-compositing',
  ],
}
