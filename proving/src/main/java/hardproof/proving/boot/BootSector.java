package hardproof.proving.boot;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Writes small boot code byte by byte: for the self-test of an engine, for stand-in machines, for tests.
 * Code begins at 0000:7C00. Steps come one after another; what a machine does at the end is the last.
 */
public final class BootSector {
  private static final int ORIGIN = 0x7c00;
  private static final int MOST_BYTES = 510;

  private final ByteArrayOutputStream code = new ByteArrayOutputStream();
  private final List<int[]> texts = new ArrayList<>();
  private final List<byte[]> strings = new ArrayList<>();
  private final List<Integer> printCalls = new ArrayList<>();
  private final List<Integer> serialCalls = new ArrayList<>();

  public BootSector() {
    // cli; xor ax,ax; mov ds,ax; mov es,ax; mov ss,ax; mov sp,7C00; sti; cld
    bytes(0xfa, 0x31, 0xc0, 0x8e, 0xd8, 0x8e, 0xc0, 0x8e, 0xd0, 0xbc, 0x00, 0x7c, 0xfb, 0xfc);
  }

  private BootSector bytes(int... values) {
    for (int value : values) {
      code.write(value);
    }
    return this;
  }

  /** Code as it stands. */
  public BootSector raw(int... values) {
    return bytes(values);
  }

  private BootSector say(String text, List<Integer> calls) {
    // mov si,TEXT; call ROUTINE
    bytes(0xbe, 0, 0);
    texts.add(new int[] {code.size() - 2, strings.size()});
    strings.add((text + "\0").getBytes(StandardCharsets.ISO_8859_1));
    bytes(0xe8, 0, 0);
    calls.add(code.size() - 2);
    return this;
  }

  /** Shows a text at the cursor; {@code \r\n} begins a new line. */
  public BootSector print(String text) {
    return say(text, printCalls);
  }

  /** Sends a text over the serial line. */
  public BootSector send(String text) {
    return say(text, serialCalls);
  }

  /** Sends the serial number that the firmware tells, {@code nonce=…}, up to its end. */
  public BootSector sendNonce() {
    // mov ax,F000; mov ds,ax; xor si,si; next: cmp word [si],"no"; jne skip; cmp word [si+2],"nc";
    // je found;
    // skip: inc si; jnz next; jmp done; found: (call with DS = F000); done: xor ax,ax; mov ds,ax
    bytes(0xb8, 0x00, 0xf0, 0x8e, 0xd8, 0x31, 0xf6);
    bytes(0x81, 0x3c, 'n', 'o', 0x75, 0x07, 0x81, 0x7c, 0x02, 'n', 'c', 0x74, 0x05);
    bytes(0x46, 0x75, 0xf0, 0xeb, 0x03);
    bytes(0xe8, 0, 0);
    serialCalls.add(code.size() - 2);
    return bytes(0x31, 0xc0, 0x8e, 0xd8);
  }

  /** Waits by the firmware's timer. */
  public BootSector pause(int milliseconds) {
    int micros = milliseconds * 1000;
    // mov ah,86; mov cx,HIGH; mov dx,LOW; int 15
    return bytes(
        0xb4,
        0x86,
        0xb9,
        micros >> 16 & 255,
        micros >>> 24,
        0xba,
        micros & 255,
        micros >> 8 & 255,
        0xcd,
        0x15);
  }

  /** Clears the screen. */
  public BootSector clear() {
    return bytes(0xb8, 0x03, 0x00, 0xcd, 0x10);
  }

  /**
   * Reads a sector of the disk to 0000:8000 and shows what it holds up to a zero byte; shows {@code failed}
   * and halts when it can't be read.
   */
  public BootSector printSector(int number, String failed) {
    // mov ax,0201; mov bx,8000; mov cx,SECTOR; mov dx,0080; int 13; jnc over
    bytes(0xb8, 0x01, 0x02, 0xbb, 0x00, 0x80, 0xb9, number + 1, 0x00, 0xba, 0x80, 0x00, 0xcd, 0x13);
    bytes(0x73, 0x08);
    print(failed);
    bytes(0xfa, 0xf4);
    // mov si,8000; call PRINT
    bytes(0xbe, 0x00, 0x80, 0xe8, 0, 0);
    printCalls.add(code.size() - 2);
    return this;
  }

  /** Waits for interrupts for ever. */
  public BootSector idle() {
    return bytes(0xfb, 0xf4, 0xeb, 0xfd);
  }

  /** Waits for a key, and for the next. */
  public BootSector waitForKeys() {
    return bytes(0x30, 0xe4, 0xcd, 0x16, 0xeb, 0xfa);
  }

  /** Runs in a circle. */
  public BootSector spin() {
    return bytes(0xeb, 0xfe);
  }

  /** Halts with interrupts off. */
  public BootSector halt() {
    return bytes(0xfa, 0xf4, 0xeb, 0xfd);
  }

  /** Restarts through the reset vector. */
  public BootSector restart() {
    return bytes(0xea, 0x00, 0x00, 0xff, 0xff);
  }

  /** Turns to protected mode, as every system of today does soon. */
  public BootSector protect() {
    // mov eax,cr0; or al,1; mov cr0,eax
    return bytes(0x0f, 0x20, 0xc0, 0x0c, 0x01, 0x0f, 0x22, 0xc0);
  }

  /**
   * The sector with its signature.
   *
   * @throws IllegalStateException when there is too much in it
   */
  public byte[] build() {
    int print = code.size();
    // lodsb; or al,al; jz end; mov ah,0E; mov bx,7; int 10; jmp loop; end: ret
    bytes(0xac, 0x08, 0xc0, 0x74, 0x09, 0xb4, 0x0e, 0xbb, 0x07, 0x00, 0xcd, 0x10, 0xeb, 0xf2, 0xc3);
    int send = code.size();
    // lodsb; or al,al; jz end; mov ah,al; mov dx,3FD; wait: in al,dx; test al,20; jz wait;
    // mov al,ah; mov dx,3F8; out dx,al; jmp loop; end: ret
    bytes(0xac, 0x08, 0xc0, 0x74, 0x12, 0x88, 0xc4, 0xba, 0xfd, 0x03, 0xec, 0xa8, 0x20, 0x74, 0xfb);
    bytes(0x88, 0xe0, 0xba, 0xf8, 0x03, 0xee, 0xeb, 0xe9, 0xc3);
    List<Integer> places = new ArrayList<>();
    for (byte[] string : strings) {
      places.add(ORIGIN + code.size());
      code.write(string, 0, string.length);
    }
    byte[] all = code.toByteArray();
    if (all.length > MOST_BYTES) {
      throw new IllegalStateException(
          "the boot code takes " + all.length + " bytes, " + MOST_BYTES + " are there");
    }
    for (int[] text : texts) {
      put(all, text[0], places.get(text[1]));
    }
    printCalls.forEach(at -> put(all, at, print - at - 2));
    serialCalls.forEach(at -> put(all, at, send - at - 2));
    byte[] sector = java.util.Arrays.copyOf(all, 512);
    sector[510] = 0x55;
    sector[511] = (byte) 0xaa;
    return sector;
  }

  private static void put(byte[] code, int at, int value) {
    code[at] = (byte) value;
    code[at + 1] = (byte) (value >> 8);
  }
}
