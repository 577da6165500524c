/**
 * `npm run mutations`: takes each rule of escaping and each refusal away in turn, in a copy of the sources, and shows that a
 * test fails for it. Names of rules may be given. Exit code 1 when a rule can go unnoticed.
 */

import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { jest, run } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

/** What is taken away: a name, the file’s own name, a text that is in it once, and what is there instead. */
const mutations = [
  ['& in text', 'escape.ts', "return '&amp;';", "return '&';"],
  ['< in text', 'escape.ts', "return '&lt;';", "return '<';"],
  ['> in text', 'escape.ts', "return '&gt;';", "return '>';"],
  ['" in text', 'escape.ts', "return '&quot;';", "return '\"';"],
  ["' in text", 'escape.ts', "return '&#39;';", 'return "\'";'],
  ['lone surrogates in text', 'escape.ts', "pair : '\\ufffd'", 'pair : text[at]'],
  ['values without an obvious text', 'text.ts', 'throw unprintable(value);', 'return String(value);'],
  ['a line break behind <pre> and <textarea>', 'text.ts', '/^[\\r\\n]/.test(printed)', 'false'],
  ['trusted by a symbol only', 'trusted.ts', "Symbol.for('zip-loom.trusted-html')", "'zip-loom.trusted-html'"],
  ['an & before a value', 'attribute-text.ts', "text.replace(/&(?=#?[a-z0-9]*$)/i, '&amp;')", 'text'],
  [
    'quotes in fixed text beside a value',
    'attribute-text.ts',
    "const quotedText = text.replaceAll('\"', '&quot;');",
    'const quotedText = text;',
  ],
  ['schemes of URLs', 'urls.ts', 'return scheme === undefined || out.settings.schemes.has(scheme);', 'return true;'],
  ['controls before a scheme', 'url.ts', ".replace(leadingStripped, '')", ''],
  ['tabs and line breaks inside a scheme', 'url.ts', ".replace(innerStripped, '')", ''],
  ['capitals in a scheme', 'url.ts', '?.[1]?.toLowerCase()', '?.[1]'],
  ['data: for images only where it is an image', 'urls.ts', '/^data:image\\//i.test(seenByBrowser(href))', 'true'],
  ['percent-encoding of parts', 'urls.ts', 'encodeURIComponent(plain(value).toWellFormed())', 'plain(value)'],
  [
    'well-formed parts',
    'urls.ts',
    'encodeURIComponent(plain(value).toWellFormed())',
    'encodeURIComponent(plain(value))',
  ],
  ['dots as the one value of a URL', 'urls.ts', 'leavesItsPlace([before, after], [part])', 'false'],
  ['segments that climb', 'urls.ts', 'suspicious && leavesItsPlace(texts, parts)', 'false'],
  ['halves of segments that climb', 'urls.ts', 'segment += parts[index];', 'segment = parts[index];'],
  [
    'each of several URLs',
    'url-lists.ts',
    'candidates.push(imageURL(out, list.slice(start, end))',
    'candidates.push(escapeText(list.slice(start, end))',
  ],
  ['what ends a URL in a list', 'url-lists.ts', '.replace(/[\\s,]/g, encodeURIComponent)', ''],
  [
    'URLs of code',
    'urls.ts',
    "if (trusted === undefined) throw new RenderError(renderDiagnostic('refused-code-url', { what }));",
    '',
  ],
  ['the alphabet of styles', 'styles.ts', 'if (!safeAlphabet.test(text)) return false;', ''],
  ['functions that load, in styles', 'styles.ts', '(?:url|src|image|', '(?:src|image|'],
  ['brackets in styles', 'styles.ts', 'return depth === 0;', 'return true;'],
  [
    'text as a whole style',
    'styles.ts',
    "if (typeof value !== 'object' || value === null",
    "if (typeof value === 'string') return value;\n  if (typeof value !== 'object' || value === null",
  ],
  ['closing JSON', 'json.ts', '/[<>&\\u2028\\u2029]/g', '/[\\u0000]/g'],
  [
    'strings inside JSON',
    'json.ts',
    'closed(JSON.stringify(plain(value).toWellFormed()).slice(1, -1))',
    'closed(plain(value))',
  ],
  [
    'trusted import maps',
    'json.ts',
    "if (href === undefined) throw new RenderError(renderDiagnostic('refused-code-url', { what: 'An import map' }));",
    'if (href === undefined) return jsonValue(value);',
  ],
  ['names in lists of attributes', 'attributes.ts', '!wellFormedName.test(written) || ', ''],
  ['well-formed names', 'attributes.ts', ' || !written.isWellFormed()', ''],
  [
    'refused names in lists of attributes',
    'attributes.ts',
    "throw new RenderError(renderDiagnostic('refused-spread-attribute', { name }));",
    'return attribute(prefix, value);',
  ],
  ['event handlers', 'attribute-kinds.ts', "name.startsWith('on') || ", ''],
  ['attributes that are never substituted', 'attribute-kinds.ts', 'never.has(name) || ', ''],
  ['attributes of <font>', 'attribute-kinds.ts', " || owner.name === 'font'", ''],
  [
    'the type of a script',
    'attribute-kinds.ts',
    "if (name === 'type' && owner.name === 'script') return 'refused';",
    '',
  ],
  [
    'the encoding of annotations',
    'attribute-kinds.ts',
    "if (name === 'encoding' && owner.name === 'annotation-xml') return 'refused';",
    '',
  ],
  [
    'what SVG animations set',
    'attribute-kinds.ts',
    "if ((owner.svg || animations.has(owner.name)) && animation.has(name)) return 'refused';",
    '',
  ],
  ['a link whose rel is not fixed', 'attribute-kinds.ts', 'owner.rel === undefined || ', ''],
  [
    'fixed text of another scheme',
    'url-places.ts',
    'const refused = refusedScheme(value, isImage, schemes);',
    'const refused = undefined;',
  ],
  [
    'the same in the action of a form',
    'url-places.ts',
    "if (attribute && scheme !== undefined) report(attribute, templateDiagnostic('refused-scheme', { scheme }));",
    '',
  ],
  [
    'the origin of code',
    'places.ts',
    "if (!settlesOrigin(value)) return refuse(templateDiagnostic('refused-code-url', { what }));",
    '',
  ],
  [
    'the content of a refresh',
    'places.ts',
    "if (owner.refresh && attribute.name === 'content') return",
    'if (false) return',
  ],
  [
    'a whole style as a value',
    'style-places.ts',
    "if (value.length === 1)\n    return refuse(templateDiagnostic('refused-style-value', { place: 'the place of a whole style' }));",
    '',
  ],
  ['the name of a property', 'style-places.ts', "this.hasColon ? undefined : 'the name of a property'", 'undefined'],
  [
    'url(…) of a style',
    'style-places.ts',
    "if (this.open.some((name) => loading.has(name))) return 'url(…) of a style';",
    '',
  ],
  ['text that cannot be escaped', 'nodes.ts', 'if (refusesText(element, at)) return;', ''],
  ['JSON that is none', 'json-scripts.ts', 'if (holdsValue) checkJSON(standIn, element, at);', ''],
  ['strings of an import map', 'json-scripts.ts', 'if (isCode && inString)', 'if (false)'],
  ['names of tags', 'tokenizer.ts', 'diagnostic, this.report);', 'diagnostic, () => {});'],
  [
    'names of attributes',
    'attributes.ts',
    "readingDiagnostic('refused-attribute-name'), report);",
    "readingDiagnostic('refused-attribute-name'), () => {});",
  ],
  [
    'trusted markup in attributes',
    'text.ts',
    "typeof value === 'number' ? `${value}` : escapeText(plain(value))",
    'text(value)',
  ],
  [
    'the URL of a refresh in lists',
    'attribute-kinds.ts',
    "if (name === 'content' && owner.refresh) return 'refused';",
    '',
  ],
  [
    'another rel in lists',
    'attribute-kinds.ts',
    "if (name === 'rel' && owner.name === 'link' && owner.rel !== undefined) return 'refused';",
    '',
  ],
  [
    'buttons from lists that lead elsewhere',
    'attributes.ts',
    'if (leads.has(`${owner.name} ${name}`)) leading.set(name, value);',
    '',
  ],
  ['hosts that values decide about', 'urls.ts', 'return expected.some((one) => leadsAlike(href, one))', 'return true'],
  ['hosts of a second value', 'urls.ts', 'isWhole ? lead.length === 1 && !stays', 'isWhole ? !stays'],
  ['hosts of path segments', 'urls.ts', "return path?.startsWith('//') ?", 'return path === undefined ?'],
  ['values at the start of a refresh', 'url-places.ts', 'urlOfParts(href, false, true)', 'urlOfParts(href, false)'],
  ['quotes at the start of a refresh', 'urls.ts', "(quote === '\"' ? '%22' : '%27')", 'quote'],
  ['hosts that fixed text does not settle', 'url.ts', '|[/\\\\][^/\\\\]|', '|[/\\\\]|'],
  ['a query of a page with two slashes', 'urls.ts', '${ownPath(path)}', '${path}'],
  ['what ends a candidate of images', 'url-lists.ts', "'%2C'.repeat(joined.length - end)", "''"],
  ['risks of styles in their order', 'styles.ts', 'risksIn(result).join() === risks.join()', 'true'],
  ['comments of styles', 'style-places.ts', "if (this.inComment) return 'a comment of a style';", ''],
  [
    'escapes of styles',
    'style-places.ts',
    "if (/^\\\\[\\da-f]{0,5}$/i.test(this.end)) return 'an escape of a style';",
    '',
  ],
  ['the base of relative code', 'attribute-kinds.ts', "case 'base href':", ''],
  ['code of drawings', 'attribute-kinds.ts', "case 'use href':", ''],
  ['animations in other files', 'attribute-kinds.ts', 'animations.has(owner.name)', 'false'],
  ['a written sandbox', 'attribute-kinds.ts', "if (name === 'sandbox' && owner.sandboxed) return 'refused';", ''],
  ['the first of two attributes', 'tags.ts', '!written.has(item.name) && ', ''],
  [
    'code in drawings, at any depth',
    'text-refusals.ts',
    'tagExpressions(element).length === 0)\n        return undefined;',
    "tagExpressions(element).length === 0)\n        return 'skip';",
  ],
  ['slots in the code of drawings', 'text-refusals.ts', '!isSlotElement(element) && ', ''],
  ['names in patterns', 'check-names.ts', 'known.flatMap(({ expressions }) => expressions)', '[]'],
  ['effects in patterns', 'expressions.ts', 'visit(syntax, refuseEffect);', 'visit(syntax, () => {});'],
  ['a line break behind <pre>, from a slot', 'nodes.ts', "if (isOurs) addText(parts, '\\n');", ''],
  ['a line break in a refused textarea', 'controls.ts', '/^[\\r\\n]/.test(text)', "text.startsWith('\\n')"],
  ['where forms lead, as browsers read it', 'open-forms.ts', 'urls.every((url) => this.leadsHere(url))', 'true'],
  ['tokens in URLs', 'open-forms.ts', 'return !isShown && ', 'return '],
  ['origins of blob: URLs', 'open-forms.ts', "(protocol === 'https:' || protocol === 'http:') && ", ''],
  [
    'buttons for a form elsewhere on the page',
    'form-elements.ts',
    'form === undefined ? out.forms.at(-1)?.target : out.registry.targetOf(form)',
    'out.forms.at(-1)?.target',
  ],
  ['the base of the document', 'form-elements.ts', 'out.registry.base ??= href;', ''],
  ['the first base of the document', 'form-elements.ts', 'out.registry.base ??= href;', 'out.registry.base = href;'],
  [
    'buttons that come too late',
    'form-elements.ts',
    "if (target.isSent && !out.registry.mayHoldToken(target))\n    throw new RenderError(renderDiagnostic('refused-late-submitter'));",
    '',
  ],
  ['methods in the URL of the page', 'form-elements.ts', "pair !== '' && !namesMethod(pair)", "pair !== ''"],
  ['a page with two slashes sends to itself', 'form-elements.ts', "url.pathname.startsWith('//')", 'false'],
  ['several methods in a URL', 'origin.ts', 'named.length !== 1 || ', ''],
  ['the page of a list of names', 'submission.ts', 'list?.page === page && ', ''],
  ['the age of a list of names', 'submission.ts', ' && !list.isOld', ''],
  ['redirects to what is no page', 'redirects.ts', 'if (target.protocol !== base.protocol) return undefined;', ''],
  [
    'redirects to any scheme',
    'redirects.ts',
    "target?.protocol === 'https:' || target?.protocol === 'http:'",
    'target',
  ],
  ['origins with a path', 'site.ts', "pathname === '/' && ", ''],
  [
    'proxies that nobody trusts',
    'site.ts',
    '(proxies > 0 ? forwardedOrigin(request, proxies)',
    '(proxies >= 0 ? forwardedOrigin(request, Math.max(1, proxies))',
  ],
  ['secrets of a few letters', 'settings.ts', 'new Set(one).size < fewestCharacters', 'false'],
  ['private pages', 'page-reply.ts', 'if (!visitor.isPrivate) return;', 'return;'],
  ['own options', 'own-values.ts', 'Object.create(null)', '{}'],
  ['promises of the data', 'quiet-data.ts', 'visitObjects(data, quieten);', ''],
  ['promises of getters', 'quiet-data.ts', 'if (!mayHaveGetters(data)) return', 'return'],
  ['promises behind conditions', 'code.ts', 'return mayMake(expression.syntax) ?', 'return false ?'],
  [
    'promises that are printed',
    'text.ts',
    '// A function of the data may have made it: then nobody else knows it.\n  quieten(value);',
    '',
  ],
  ['late rows of a list', 'data-values.ts', 'else lookAtNext(row as Record<string, unknown>, accessors, meet);', ''],
  ['forms told by what they are', 'sent.ts', '[sentMark] ?? {};', '[sentMark] ?? (value as SentForm);'],
  ['errors that cannot be looked at', 'thrown.ts', 'if (read.every((text) =>', 'if (read.some((text) =>'],
  [
    'errors that cannot be asked what they are',
    'thrown.ts',
    'return thrown instanceof kind;\n  } catch {',
    'return thrown instanceof kind;\n  } catch (failed) {\n    throw failed;',
  ],
  [
    'loggers that fail',
    'steady-logger.ts',
    'logger[level](readable, message);\n    } catch {',
    'logger[level](readable, message);\n    } catch (failed) {\n      throw failed;',
  ],
  ['sources that were not reached', 'renderer.ts', 'stopRows(page);\n      closeSources(data);', 'stopRows(page);'],
  ['readers who leave', 'answer-page.ts', 'to.incoming.onLeave(() => rendering.abandon());', ''],
  ['readers who leave a page that is sent', 'sending.ts', 'source.cancel();', ''],
  ['turns for others', 'rendering.ts', 'for (let turn = 0; turn < turnsForOthers; turn++) await nextTask();', ''],
  ['limits for waiting', 'pending.ts', 'if (waitLimit === undefined) return promise;', 'return promise;'],
  ['numbers of JSON', 'entries.ts', 'isInexact(item) ? [name, String(item), true] : ', ''],
  [
    'numbers in linear time',
    'coerce.ts',
    'isDecimal(text) ?',
    '/^-?(?:\\d+\\.?\\d*|\\.\\d+)(?:e[+-]?\\d+)?$/i.test(text) ?',
  ],
  [
    'spaces at the end of text in linear time',
    'whitespace.ts',
    'return text.slice(0, endOfContent(text));',
    "return text.replace(/\\s+$/, '');",
  ],
  [
    'values before an ampersand in linear time',
    'url-encoded.ts',
    "pair.indexOf('=')",
    "(text.indexOf('=', start) + pair.indexOf('=')) && pair.indexOf('=')",
  ],
  ['the depth of elements', 'parser.ts', 'if (this.depth > deepestNesting) {', 'if (false) {'],
  ['the depth of expressions', 'expressions.ts', 'if (++this.depth > deepestExpression)', 'if (++this.depth < 0)'],
  ['the number of alternatives', 'siblings.ts', 'chain.length > mostAlternatives', 'false'],
  ['the number of problems', 'report.ts', 'if (found.length >= mostDiagnostics) throw new TooManyDiagnostics();', ''],
  ['nonces of private pages', 'answer-page.ts', 'sources.needsNonce || usesToken || ', 'sources.needsNonce || '],
  ['nonces of unknown code', 'answer-page.ts', 'sources.needsNonce || usesToken', 'usesToken'],
  ['hashes of code as browsers have it', 'page-sources.ts', ".replace(/\\r\\n?/g, '\\n')", ''],
  [
    'sources of what a value names',
    'page-sources.ts',
    "if (first.kind !== 'text') return undefined;",
    "if (first.kind !== 'text') return [\"'self'\"];",
  ],
  [
    'what a policy adds',
    'content-policy.ts',
    "throw new LoomError(loomDiagnostic('invalid-policy', { directive: name }));",
    'return [];',
  ],
  [
    'inner regions of one that is asked for alone',
    'regions.ts',
    'only && only.open === undefined && (isDone',
    'only && (isDone',
  ],
  ['what comes after the only region', 'regions.ts', 'only.open === undefined && allWritten(only)', 'false'],
  ['what is typed while a request runs', 'controls.ts', 'typedSince(live, since) || ', ''],
  ['a field with the focus', 'controls.ts', '(isBackground && live === document.activeElement)', 'false'],
  ['what was done before the base', 'first-base.ts', '    undo(records, base);', ''],
  ['such names undone', 'first-base.ts', 'base.setAttributeNode(attribute);', ''],
  ['scroll of what moves', 'merge.ts', '  scrollAgain();', ''],
  ['what a script has replaced', 'merge.ts', 'if (isReplaced) target.replaceChildren();', ''],
  ['what a script took away', 'merge.ts', 'differs && target.isConnected && !match?.live?.isConnected', 'false'],
  [
    'names that only a parser can make',
    'merge.ts',
    'element.setAttributeNode(attribute.cloneNode() as Attr)',
    'element.setAttribute(name, value)',
  ],
  ['regions that change their tag', 'merge.ts', 'renamed(found, wanted as Element, merge)', 'undefined'],
  ['a region in a new element', 'merge.ts', 'merge.regions.has(regionOf(inner)!)', 'false'],
  ['masks of tokens', 'tokens.ts', 'const mask = randomText(maskBytes);', "const mask = 'A'.repeat(proofLength);"],
  ['dots in plain paths', 'url.ts', '/(?!\\.|%2e)(?:', '/(?:'],
  ['two slashes in plain paths', 'url.ts', '`^/(?:${segment}', '`^/+(?:${segment}'],
  [
    'what is certain of a parsed body',
    'parsed-body.ts',
    'isCertain || text.length === Number',
    'true || text.length === Number',
  ],
  ['what was compressed and comes late', 'sending.ts', 'outgoing.flush?.();', ''],
  ['earlier values of Vary', 'sending.ts', 'withEarlier(outgoing.getHeader(name), value)', 'value'],
  ['earlier cookies', 'sending.ts', "[...earlierValues(outgoing.getHeader('set-cookie')), ...cookies]", 'cookies'],
  ['listeners for headers', 'sending.ts', ' || outgoing.writeHead !== ServerResponse.prototype.writeHead', ''],
  ['URLs of mounted routers', 'incoming-head.ts', '(req as { originalUrl?: string }).originalUrl ?? ', ''],
  ['hosts that are more than hosts', 'incoming-head.ts', 'hostAndPort.test(host) ? ', 'true ? '],
  [
    'files that matter to a page',
    'folder-store.ts',
    'if (known && !isStill(known.path, known.version)) return false;',
    '',
  ],
  ['files that come and go', 'folder-store.ts', 'if (!isStill(path, version)) return false;', ''],
  ['files that change within a tick', 'folder-store.ts', "Date.now() - found.mtimeMs < coarsest ? '' : ", ''],
  // Files.
  ['files before the token', 'intake.ts', 'this.hasEarlyFile ||= !this.isProved;', ''],
  ['who sends a file', 'intake.ts', 'this.isProved ? ruleOf(part.name) : undefined', 'ruleOf(part.name)'],
  ['text by all of its bytes', 'intake.ts', 'const isWhatItSays = !text || text.end();', 'const isWhatItSays = true;'],
  ['sizes of files', 'intake.ts', 'if (size > most) fault', 'if (false) fault'],
  ['room of a visitor', 'intake.ts', 'keeper.roomFor(visitor) < 0', 'false'],
  ['files that nobody took', 'sent-body.ts', 'await this.hand?.end();', ''],
  ['what is signed for one visitor', 'signed-payload.ts', 'if (!sealer.verify(', 'if (false && !sealer.verify('],
  ['receipts of other forms', 'kept-files.ts', 'receipt.form !== form || ', ''],
  ['files in use', 'keeper.ts', 'if (this.taken.has(key)) return undefined;', ''],
  [
    'what a file that was cut off leaves',
    'upload-folder.ts',
    'await rm(path, { force: true });\n        throw',
    'throw',
  ],
  ['links as folders of uploads', 'upload-folder.ts', 'await lstat(folder)', 'await stat(folder)'],
  ['folders that others can look into', 'upload-folder.ts', '(found.mode & 0o077) === 0', 'true'],
  ['names of saved files', 'uploaded-file.ts', '!/[/\\\\\\0:]/.test(name)', 'true'],
  ['types that a field takes', 'file-types.ts', 'if (!accept) return true;', 'return true;'],
  // Forms that change, and what they take along.
  [
    'rows that moved, shown',
    'raw.ts',
    "node?.raw === 'list' && typeof step === 'number' ? node.rows[step] : step",
    'step',
  ],
  ['rows that moved, read', 'coerce.ts', 'itemOf(model, raw.rows[index])', 'itemOf(model, index)'],
  ['items for two rows', 'rows.ts', 'if (row === undefined || used.has(row)) return', 'if (row === undefined) return'],
  [
    'buttons that never save',
    'edits.ts',
    "return readEdit(text, depth) ?? { kind: 'refresh' };",
    'return readEdit(text, depth)!;',
  ],
  ['most rows', 'edits.ts', 'if (index >= limit)', 'if (false)'],
  ['fewest rows', 'edits.ts', 'if (list.items.size <= limit)', 'if (false)'],
  ['rows left blank', 'build-raw.ts', '(item.isCompanion || !keepsBlank)', 'true'],
  ['what Enter presses', 'form-elements.ts', 'target.hasEdits || isOpen()', 'false'],
  ['steps by themselves', 'step-reading.ts', 'isLast || (step !== -1 && step <= at)', 'true'],
  ['files of earlier steps', 'step-reading.ts', '.filter(([name]) => name !== keptField)', ''],
  ['changes of others', 'conflicts.ts', 'theirs === ours || digestOf(theirs) === before', 'true'],
  ['changes of others alone', 'conflicts.ts', 'if (digestOf(ours) === before)', 'if (false)'],
  [
    'forms that count once',
    'submission.ts',
    'if (!(await this.usedForms.take(key, longestUse))) return repeated();',
    '',
  ],
  [
    'forms that failed',
    'exchange.ts',
    '    if (!this.isDone) await this.ownSubmission?.giveBack();\n    await this.ownSubmission?.end();',
    '    await this.ownSubmission?.end();',
  ],
  [
    'words of authors',
    'explain.ts',
    'return Object.hasOwn(ownWords, vendor) && ownWords[vendor]!.test(message);',
    'return true;',
  ],
  ['choices of data', 'reading.ts', 'asked ? this.viewOf(raw, asked) : form', 'form'],
  ['fields that are not shown', 'found-errors.ts', 'if (!shown || errors.every(', 'if (shown || errors.every('],
  // What is told instead of taken in silence.
  [
    'names of options',
    'options.ts',
    'if (!Object.hasOwn(table, name)) throw unknownOption(owner, name, name, namesOf(table));',
    '',
  ],
  ['kinds of options', 'options.ts', '  if (kind.holds(value)) return;', '  return;'],
  [
    'arguments of functions',
    'options.ts',
    "  if (!kind.holds(value))\n    throw new LoomError(optionDiagnostic('invalid-call'",
    "  if (!kind)\n    throw new LoomError(optionDiagnostic('invalid-call'",
  ],
  ['names of fields in options', 'check-settings.ts', '  if (path && shapeAt(shape, path)) return;', '  return;'],
  [
    'fields that nobody can fill in',
    'shape-from-schema.ts',
    "(depth < deepest ? this.refuse(path) : 'text')",
    "'text'",
  ],
  [
    'locales that are none',
    'locales.ts',
    '    if (given === this.last.given) return this.last.locale;',
    '    return String(given);',
  ],
  ['a better language than none', 'locales.ts', 'if (exact !== undefined) return exact;', 'return exact;'],
  ['Vary by language', 'page-reply.ts', 'to.context.isNegotiated ? `${vary}, Accept-Language` : vary', 'vary'],
  [
    'names that a page does not take',
    'data-faults.ts',
    'if (optional === undefined || !isPlain(data)) return none;',
    'return none;',
  ],
  ['parts of URLs that are undefined', 'urls.ts', 'if (value === undefined) missingPart(out, before);', ''],
  [
    'parts of attributes that are undefined',
    'text.ts',
    '  if (value === undefined)\n    out.settings.fault',
    '  if (out === undefined)\n    out.settings.fault',
  ],
  [
    'days that do not exist',
    'arguments.ts',
    'return day <= 28 || day <= new Date(Date.UTC(year, month, 0)).getUTCDate();',
    'return true;',
  ],
  [
    'a mistake is logged once',
    'fault-log.ts',
    'if (this.logged.has(key) || this.logged.size >= mostPlaces) return;',
    '',
  ],
  [
    'paths that only begin like the base',
    'mounting.ts',
    "const isBelow = path === base || rest === '/' || rest === '?' || rest === '#';",
    'const isBelow = path.startsWith(base);',
  ],
  ['other hosts below a base', 'mounting.ts', '(\\/(?![/\\\\\\t\\n\\r]).*)', '(\\/.*)'],
  [
    'what only follows from what cannot be read',
    'compilation.ts',
    'return span.start < (this.breaks.get(file) ?? Number.POSITIVE_INFINITY);',
    'return true;',
  ],
  ['two templates that are equally near', 'partials.ts', 'return nearest.length > 1 ? nearest : [];', 'return [];'],
  [
    'another page is told at once',
    'answer-page.ts',
    'return !facts.hasRegions || asked.page !== facts.chain;',
    'return false;',
  ],
  [
    'the title does not count',
    'regions.ts',
    'if (!recorder || recorder.isInBody || recorder.current !== recorder.page) return;',
    'return;',
  ],
  ['buckets that differ', 'comparison.ts', 'return !this.isInSameBucket(region);', 'return false;'],
  ['buckets of which nothing is said', 'comparison.ts', 'owner && buckets.length === count', 'owner'],
  ['how many buckets there may be', 'digest-list.ts', '|| Number(count) > mostBuckets', ''],
  ['news of buckets alone', 'comparison.ts', '|| !this.isInSameBucket(region))', '|| true)'],
  [
    'a row for its bucket by its name',
    'digest-buckets.ts',
    '(hash(name, 0x9e3779b1) >>> 0) % count',
    'name.length % count',
  ],
  ['the mark of what is put', 'change-markup.ts', '${markAttribute}="${mark}"', ''],
  [
    'escaping of targets',
    'change-markup.ts',
    'const target = escapeText(action.target);',
    'const { target } = action;',
  ],
  ['a page at the end as text', 'changes-text.ts', '${escapeText(text)}', '${text}'],
  ['who leaves ends the work', 'changes-text.ts', 'this.steps.leave();', ''],
  [
    'the work of a form without the client',
    'changes-reply.ts',
    '((await doneWork(source, to)) ?? otherwise)',
    'otherwise',
  ],
  [
    'who only looks gets the page',
    'changes-reply.ts',
    '(asked.only === undefined && asked.region !== pageRegion)',
    'true',
  ],
  ['errors at once', 'changes-text.ts', 'await Promise.race([first, nextTask()]);', ''],
  [
    'forms of messages need no session',
    'compilation.ts',
    'contents.postsForm && name !== flashTemplate',
    'contents.postsForm',
  ],
];

/** The quick tests first; what takes long only where they see nothing. */
const tests = [
  ['tests/loom/values.test.ts', 'tests/loom/code-places.test.ts'],
  [
    'tests/loom/options.test.ts',
    'tests/loom/arguments.test.ts',
    'tests/loom/locales.test.ts',
    'tests/loom/data.test.ts',
    'tests/loom/base.test.ts',
    'tests/loom/guesses.test.ts',
    'tests/loom/calls.test.ts',
    'tests/forms/definitions.test.ts',
    'tests/runtime/helpers.test.ts',
    'tests/updates/answers.test.ts',
    'tests/updates/changes.test.ts',
    'tests/updates/folding.test.ts',
  ],
  [
    'tests/forms/exchange.test.ts',
    'tests/forms/binding.test.ts',
    'tests/forms/tokens.test.ts',
    'tests/forms/reading.test.ts',
  ],
  [
    'tests/forms/lists.test.ts',
    'tests/forms/steps.test.ts',
    'tests/forms/choices.test.ts',
    'tests/forms/schemas.test.ts',
    'tests/forms/looks.test.ts',
  ],
  ['tests/updates/alone.test.ts', 'tests/fuzz/addresses.test.ts'],
  [
    'tests/node/servers.test.ts',
    'tests/node/light-objects.test.ts',
    'tests/node/node.test.ts',
    'tests/node/listener.test.ts',
  ],
  ['tests/loom/misbehaving.test.ts', 'tests/updates/late.test.ts'],
  ['tests/loom/policy.test.ts'],
  ['tests/client/merge.test.ts'],
  ['tests/forms/uploads.test.ts', 'tests/forms/kept-files.test.ts'],
  ['tests/fuzz/structure.test.ts'],
  ['tests/fuzz/costs.test.ts', 'tests/fuzz/templates.test.ts'],
];

requireNode();
requirePackages();
// The client’s file, for tests in a browser.
run('node', ['scripts/build.mjs']);
const folder = mkdtempSync(join(tmpdir(), 'zip-loom-mutations-'));
process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
for (const name of [
  'src',
  'tests',
  'examples',
  'scripts',
  'dist',
  'jest.config.mjs',
  'tsconfig.entries.json',
  'package.json',
])
  cpSync(name, join(folder, name), { recursive: true });
symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));

/** Whether the tests pass in the copy. */
function passes(files) {
  const args = [...jest, '--bail', ...files];
  return spawnSync(process.execPath, args, { cwd: folder, stdio: 'ignore' }).status === 0;
}

/** Where the text is in the copy, in a source file of that name; each place. */
function placesOf(file, found) {
  const paths = readdirSync(join(folder, 'src'), { recursive: true })
    .filter((path) => basename(path) === file)
    .map((path) => join(folder, 'src', path));
  return paths.flatMap((path) => Array(readFileSync(path, 'utf8').split(found).length - 1).fill(path));
}

if (!passes(tests.flat())) {
  console.error('The tests fail before anything was taken away.');
  process.exit(1);
}
const wanted = process.argv.slice(2);
const chosen = mutations.filter(([name]) => wanted.length === 0 || wanted.includes(name));
let unnoticed = 0;
for (const [name, file, found, instead] of chosen) {
  const places = placesOf(file, found);
  if (places.length !== 1) {
    console.error(`${name}: “${found}” is ${places.length} times in ${file}; it should be there once.`);
    unnoticed++;
    continue;
  }
  const [path] = places;
  const source = readFileSync(path, 'utf8');
  writeFileSync(
    path,
    source.replace(found, () => instead),
  );
  const noticed = tests.find((files) => !passes(files));
  writeFileSync(path, source);
  if (!noticed) unnoticed++;
  console.log(`${noticed ? 'noticed  ' : 'UNNOTICED'}  ${name}${noticed ? `, by ${noticed.join(' or ')}` : ''}`);
}
console.log(`${chosen.length} rules taken away, ${unnoticed} unnoticed`);
process.exitCode = unnoticed > 0 ? 1 : 0;
