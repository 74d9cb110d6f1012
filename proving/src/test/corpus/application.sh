# Container applications in bundles, whole and with something left out. The manifests are of the forms that
# the published API has (kubernetes.io, "API reference"); volumes are made by tar.
. "$CORPUS/lib.sh"
M=container-application

mkdir -p base/objects base/volumes vol && printf 'ledger' > vol/ledger.txt
tar -C vol -czf base/volumes/ledger.tar.gz . && tar -C vol -cf base/volumes/data-db-0.tar . && tar -C vol -cf base/volumes/data-db-1.tar .
cat > base/objects/all.yaml << 'Y'
apiVersion: v1
kind: Secret
metadata: {name: relay-key}
stringData: {token: s, cert: c}
---
apiVersion: v1
kind: ConfigMap
metadata: {name: relay-settings}
data: {a.conf: x, b.conf: y}
---
apiVersion: v1
kind: Secret
metadata: {name: pull}
type: kubernetes.io/dockerconfigjson
data: {.dockerconfigjson: e30=}
---
apiVersion: v1
kind: Secret
metadata: {name: web-tls}
type: kubernetes.io/tls
data: {tls.crt: eA==, tls.key: eA==}
---
apiVersion: v1
kind: ServiceAccount
metadata: {name: relay}
imagePullSecrets: [{name: pull}]
---
apiVersion: rbac.authorization.k8s.io/v1
kind: Role
metadata: {name: reader}
rules: []
---
apiVersion: rbac.authorization.k8s.io/v1
kind: RoleBinding
metadata: {name: reads}
roleRef: {apiGroup: rbac.authorization.k8s.io, kind: Role, name: reader}
subjects:
  - {kind: ServiceAccount, name: relay}
  - {kind: ServiceAccount, name: scraper, namespace: monitoring}
  - {kind: User, name: somebody}
---
apiVersion: rbac.authorization.k8s.io/v1
kind: ClusterRoleBinding
metadata: {name: views}
roleRef: {apiGroup: rbac.authorization.k8s.io, kind: ClusterRole, name: view}
subjects: [{kind: ServiceAccount, name: relay, namespace: default}]
---
apiVersion: v1
kind: PersistentVolumeClaim
metadata: {name: ledger}
---
apiVersion: v1
kind: Service
metadata: {name: relay}
spec: {ports: [{name: http, port: 80}]}
---
apiVersion: v1
kind: Service
metadata: {name: db}
spec: {clusterIP: None, ports: [{port: 5432}]}
---
apiVersion: apps/v1
kind: Deployment
metadata: {name: relay}
spec:
  template:
    spec:
      serviceAccountName: relay
      serviceAccount: relay
      imagePullSecrets: [{name: pull}]
      volumes:
        - {name: data, persistentVolumeClaim: {claimName: ledger}}
        - {name: maybe, secret: {secretName: maybe, optional: true}}
        - {name: conf, configMap: {name: relay-settings, items: [{key: a.conf, path: a}]}}
        - {name: scratch, emptyDir: {}}
        - name: all
          projected:
            sources:
              - secret: {name: relay-key, items: [{key: cert, path: c}]}
              - configMap: {name: relay-settings}
              - serviceAccountToken: {path: t}
        - {name: drive, csi: {driver: d, nodePublishSecretRef: {name: relay-key}}}
      containers:
        - name: relay
          envFrom: [{configMapRef: {name: relay-settings}}]
          env:
            - {name: TOKEN, valueFrom: {secretKeyRef: {name: relay-key, key: token}}}
            - {name: NAME, valueFrom: {fieldRef: {fieldPath: metadata.name}}}
---
apiVersion: apps/v1
kind: StatefulSet
metadata: {name: db}
spec:
  serviceName: db
  replicas: 2
  volumeClaimTemplates: [{metadata: {name: data}}]
  template:
    spec:
      volumes: [{name: data, persistentVolumeClaim: {claimName: data}}]
      containers: [{name: db}]
---
apiVersion: networking.k8s.io/v1
kind: Ingress
metadata: {name: web}
spec:
  tls: [{secretName: web-tls}]
  defaultBackend: {service: {name: relay, port: {number: 80}}}
  rules: [{http: {paths: [{path: /, backend: {service: {name: relay, port: {name: http}}}}]}}]
---
apiVersion: autoscaling/v2
kind: HorizontalPodAutoscaler
metadata: {name: scale}
spec: {scaleTargetRef: {apiVersion: apps/v1, kind: Deployment, name: relay}}
---
apiVersion: batch/v1
kind: CronJob
metadata: {name: nightly}
spec: {jobTemplate: {spec: {template: {spec: {containers: [{name: n, envFrom: [{secretRef: {name: relay-key}}]}]}}}}}
Y
bundle() { tar -C "$1" -czf "$1.app.tar.gz" .; }
bundle base && good $M app.tar.gz base.app.tar.gz "everything that it names is in it"
good $M app base "the same as a folder" && (cd base && find . -type f -print0 | xargs -0 sha256sum) > base.sha256
has zip && (cd base && zip -q -r ../base.app.zip .) && good $M app.zip base.app.zip "the same as a zip"

# variant NAME VERDICT REASON SED: the objects, edited.
variant() {
  cp -a base "$1" && sed -i "$4" "$1/objects/all.yaml" && bundle "$1" && $2 $M app.tar.gz "$1.app.tar.gz" "$3"
}
variant no-secret bad "a secret is missing" 's/^metadata: {name: relay-key}/metadata: {name: other}/'
variant no-key bad "a key of a secret is missing" 's/stringData: {token: s, cert: c}/stringData: {cert: c}/'
variant no-item bad "a key that a volume takes is missing" 's/data: {a.conf: x, b.conf: y}/data: {b.conf: y}/'
variant no-projected bad "a key of a projected volume is missing" 's/stringData: {token: s, cert: c}/stringData: {token: s}/'
variant no-pull bad "the pull secret of an account is missing" 's/^metadata: {name: pull}/metadata: {name: push}/'
variant no-account bad "an account is missing" '/^kind: ServiceAccount/{n;s/relay/other/}'
variant no-role bad "the role of a binding is missing" 's/^metadata: {name: reader}/metadata: {name: writer}/'
variant no-subject bad "an account of a binding is missing" 's/- {kind: ServiceAccount, name: relay}/- {kind: ServiceAccount, name: gone}/'
variant no-service bad "the service of a stateful set is missing" 's/serviceName: db/serviceName: database/'
variant no-port bad "the port that an ingress names is missing" 's/port: {name: http}/port: {name: https}/'
variant no-number bad "the port that an ingress numbers is missing" 's/port: {number: 80}/port: {number: 81}/'
variant no-tls bad "the key of a TLS secret is missing" 's/tls.crt: eA==, tls.key: eA==/tls.crt: eA==/'
variant no-scale bad "what is to be scaled is missing" 's/kind: Deployment, name: relay/kind: Deployment, name: gone/'
variant other-group bad "an object of that name, in another API group" 's/^apiVersion: v1\(.*\)/apiVersion: v1\1/; /^kind: ConfigMap/{s/.*/kind: ConfigMap/;}; s/^data: {a.conf/data: {z.conf/'
variant other-namespace bad "a secret in another namespace" 's/^metadata: {name: relay-key}/metadata: {name: relay-key, namespace: elsewhere}/'
variant csi bad "the secret of a CSI volume is missing" 's/nodePublishSecretRef: {name: relay-key}/nodePublishSecretRef: {name: gone}/'
variant cron bad "a secret of a cron job is missing" 's/envFrom: \[{secretRef: {name: relay-key}}\]/envFrom: [{secretRef: {name: gone}}]/'
variant twice bad "two secrets of one name, and other content" '$a---\napiVersion: v1\nkind: Secret\nmetadata: {name: pull}\ndata: {other: eA==}'
variant same good "the same object twice" '$a---\napiVersion: v1\nkind: ServiceAccount\nmetadata: {name: relay}\nimagePullSecrets: [{name: pull}]'
variant replicas bad "a third replica has no volume" 's/replicas: 2/replicas: 3/'
variant none-of-them good "no replica, no volume" 's/replicas: 2/replicas: 0/'
variant controller good "a replication controller" '$a---\napiVersion: v1\nkind: ReplicationController\nmetadata: {name: old}\nspec: {template: {spec: {containers: [{name: x, envFrom: [{secretRef: {name: relay-key}}]}]}}}'
variant controller-bad bad "a secret of a replication controller is missing" '$a---\napiVersion: v1\nkind: ReplicationController\nmetadata: {name: old}\nspec: {template: {spec: {containers: [{name: x, envFrom: [{secretRef: {name: gone}}]}]}}}'
variant older good "an ingress in its older form" '$a---\napiVersion: extensions/v1beta1\nkind: Ingress\nmetadata: {name: old}\nspec: {backend: {serviceName: relay, servicePort: 80}}'
variant older-bad bad "an ingress in its older form, its service missing" '$a---\napiVersion: extensions/v1beta1\nkind: Ingress\nmetadata: {name: old}\nspec: {rules: [{http: {paths: [{backend: {serviceName: gone, servicePort: http}}]}}]}'
variant sealed good "a secret that a sealed one becomes" 's/^kind: Secret$/&/; s/^metadata: {name: pull}/metadata: {name: pull2}/; $a---\napiVersion: bitnami.com/v1alpha1\nkind: SealedSecret\nmetadata: {name: pull}'
variant foreign good "an object of a group of its own that is called Job" '$a---\napiVersion: batch.example.org/v1\nkind: Job\nmetadata: {name: j}\nspec: {template: {spec: {containers: [{name: x, envFrom: [{secretRef: {name: whatever}}]}]}}}'
variant syntax bad "a line is damaged" 's/^kind: Role$/kind: [Role/'

cp -a base json && rm json/objects/all.yaml && has python3 && printf '{"apiVersion":"v1","kind":"List","items":[{"apiVersion":"v1","kind":"PersistentVolumeClaim","metadata":{"name":"ledger"}},{"apiVersion":"v1","kind":"Pod","metadata":{"name":"p"},"spec":{"volumes":[{"name":"v","persistentVolumeClaim":{"claimName":"ledger"}}]}}]}' > json/all.json && echo '{"name": "a package"}' > json/package.json && bundle json && good $M app.tar.gz json.app.tar.gz "objects as JSON, in a list"
cp -a json json-bad && sed -i 's/"claimName":"ledger"/"claimName":"gone"/' json-bad/all.json && bundle json-bad && bad $M app.tar.gz json-bad.app.tar.gz "the same, and a claim is missing"
cp -a json typed && printf '{"apiVersion":"v1","kind":"PersistentVolumeClaimList","items":[{"metadata":{"name":"ledger"}},{"metadata":{"name":"data-db-0"}}]}' > typed/all.json && bundle typed && good $M app.tar.gz typed.app.tar.gz "a list of one kind"
cp -a base kust && cat > kust/kustomization.yaml << 'Y'
resources: [objects/all.yaml]
configMapGenerator: [{name: made, literals: [LEVEL=info], files: [app.conf]}]
patches: [{path: patch.yaml}]
Y
printf 'apiVersion: apps/v1\nkind: Deployment\nmetadata: {name: relay}\nspec: {replicas: 3}\n' > kust/patch.yaml
printf -- '---\napiVersion: v1\nkind: Pod\nmetadata: {name: k}\nspec: {containers: [{name: x, env: [{name: L, valueFrom: {configMapKeyRef: {name: made, key: LEVEL}}}]}]}\n' >> kust/objects/all.yaml
bundle kust && good $M app.tar.gz kust.app.tar.gz "a kustomization that generates and patches"
cp -a base alias && { echo 'apiVersion: v1'; echo 'kind: ConfigMap'; echo 'metadata: {name: many}'; echo 'data:'; echo '  first: &x {a: b}'; for i in $(seq 200); do echo "  k$i: *x"; done; } > alias/objects/many.yaml && bundle alias && good $M app.tar.gz alias.app.tar.gz "many aliases of ordinary size"
cp -a base values && printf 'image: {tag: 1}\n' > values/values.yaml && bundle values && good $M app.tar.gz values.app.tar.gz "settings of a tool beside the objects"
mkdir -p ns/objects ns/volumes && cp base/volumes/ledger.tar.gz ns/volumes/ && printf 'apiVersion: v1\nkind: PersistentVolumeClaim\nmetadata: {name: ledger, namespace: one}\n---\napiVersion: v1\nkind: PersistentVolumeClaim\nmetadata: {name: ledger, namespace: two}\n' > ns/objects/a.yaml && bundle ns && bad $M app.tar.gz ns.app.tar.gz "two claims of one name, and one volume"
cp -a ns ns2 && mv ns2/volumes/ledger.tar.gz ns2/volumes/one.ledger.tar.gz && cp ns2/volumes/one.ledger.tar.gz ns2/volumes/two.ledger.tar.gz && bundle ns2 && good $M app.tar.gz ns2.app.tar.gz "two claims of one name, each with its volume"
cp -a base novol && rm novol/volumes/ledger.tar.gz && bundle novol && bad $M app.tar.gz novol.app.tar.gz "a claim without its volume"
cp -a base cutvol && cut_to cutvol/volumes/ledger.tar.gz 60 && bundle cutvol && bad $M app.tar.gz cutvol.app.tar.gz "a volume is cut off"
cp -a base endvol && cut_to endvol/volumes/data-db-0.tar 512 && bundle endvol && bad $M app.tar.gz endvol.app.tar.gz "a volume ends behind its first entry"
cp -a base emptyvol && tar -cf emptyvol/volumes/data-db-0.tar -T /dev/null && bundle emptyvol && bad $M app.tar.gz emptyvol.app.tar.gz "a volume without an entry"
cp -a base dirvol && mkdir void && tar -C void -cf dirvol/volumes/data-db-0.tar . && bundle dirvol && good $M app.tar.gz dirvol.app.tar.gz "a volume that is an empty folder"
cp -a base dotvol && mv dotvol/volumes/ledger.tar.gz dotvol/volumes/led.ger.v2.tar.gz && sed -i 's/name: ledger}/name: led.ger.v2}/; s/claimName: ledger/claimName: led.ger.v2/' dotvol/objects/all.yaml && bundle dotvol && good $M app.tar.gz dotvol.app.tar.gz "a claim with dots in its name"
cp -a base imgvol && mv imgvol/volumes/ledger.tar.gz imgvol/volumes/ledger.snap && bundle imgvol && unjudged $M app.tar.gz imgvol.app.tar.gz "a volume in a form that is not read here"
mkdir -p nothing && printf x > nothing/readme && bundle nothing && bad $M app.tar.gz nothing.app.tar.gz "no object at all"
