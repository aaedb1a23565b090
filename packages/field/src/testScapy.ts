import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

const run = promisify(execFile);

/**
 * For tests: what a script prints, line by line, that talks EtherNet/IP with a device by scapy's packet classes. It
 * finds `register()`, `ask(frame)`, `head(command, body, session)`, `read(answer)` and `request(session, message)`.
 */
export const scapyAt = async (address: string, body: string): Promise<string[]> =>
  (await run('/usr/bin/python3', ['-W', 'ignore', '-c', script(address, body)])).stdout.trim().split('\n');

const script = (address: string, body: string) => `
import socket, struct, time
from scapy.contrib.enipTCP import *
address = "${address}"
def head(command, body=b"", session=0, context=0x1122334455667788):
    # The packet class writes the header; lists have no body that it could write.
    return bytes(ENIPTCP(commandId=command, length=len(body), session=session, status=0, senderContext=context, commandSpecificData=CommandSpecificData()))[:24] + body
def read(data):
    command, length, session, status, context = struct.unpack("<HHIIQ", data[:20])
    assert length == len(data) - 24 and context == 0x1122334455667788
    return status, session, data[24:]
s = socket.create_connection((address, 44818), 3)
def ask(data):
    s.sendall(data); return s.recv(4096)
register = lambda: ask(head(0x65, bytes(ENIPRegisterSession(protocolVersion=1, options=0))))
def request(session, message):
    # This field of scapy reads and writes its bytes from behind.
    message = message[::-1]
    items = EncapsulatedPacket(itemCount=2, item=[ItemData(typeId=0, length=0), ItemData(typeId=0xb2, length=len(message), data=message)])
    answer = ENIPTCP(ask(head(0x6f, bytes(ENIPSendRRData(encapsulatedPacket=items)), session)))
    return answer.status, bytes(answer.commandSpecificData.encapsulatedPacket.item[1].data)[::-1]
${body}`;
