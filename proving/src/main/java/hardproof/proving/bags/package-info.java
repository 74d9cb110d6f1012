/** BagIt bags (RFC 8493) in zip files: how evidence packs are packed and checked. */
package hardproof.proving.bags;
